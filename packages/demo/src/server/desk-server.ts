import { createServer, type Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import express from 'express';
import { generateCrew, generateShifts } from '../data/crew';
import { generateFares } from '../data/fares';
import { generatePassengers } from '../data/passengers';
import { generateSailings } from '../data/sailings';
import { generateVehicles } from '../data/vehicles';

const PASSENGERS = 4000;
const VEHICLES = 300;
const SAILINGS = 6000;
const FARES = 60_000;
const CREW = 900;
const SHIFTS = 40_000;
/** What the line to the crew office takes. */
const FAR_MS = 450;

function answerFromFar(response: express.Response, json: string): void {
  setTimeout(() => response.type('json').send(json), FAR_MS);
}

/** The small server behind the boarding desk: its pages, and what the desk asks for. */
export function createDeskServer(): Server {
  const app = express();
  app.disable('x-powered-by');
  const departures = JSON.stringify({ version: 1, sailings: generateSailings(SAILINGS) });
  const passengers = JSON.stringify(generatePassengers(PASSENGERS));
  const vehicles = JSON.stringify(generateVehicles(VEHICLES));
  const crew = JSON.stringify(generateCrew(CREW));
  const shifts = JSON.stringify(generateShifts(SHIFTS, CREW));
  const fares = `globalThis.faresTable = ${JSON.stringify(generateFares(FARES))};`;
  app.get('/fares-table.js', (_request, response) => void response.type('js').send(fares));
  app.get('/api/departures', (_request, response) => void response.type('json').send(departures));
  app.get('/api/departures/version', (_request, response) => void response.json({ version: 1 }));
  app.get('/api/passengers', (_request, response) => void response.type('json').send(passengers));
  app.get('/api/vehicles', (_request, response) => void response.type('json').send(vehicles));
  app.get('/api/crew', (_request, response) => answerFromFar(response, crew));
  app.get('/api/shifts', (_request, response) => answerFromFar(response, shifts));
  app.use(express.static(fileURLToPath(new URL('./desk', import.meta.url))));
  return createServer(app);
}
