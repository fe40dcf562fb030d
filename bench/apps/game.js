/** A game on a canvas: crates fall into the hold; keys tilt the ship. */
import Matter from 'matter-js';
import { createSignal } from 'solid-js';
import html from 'solid-js/html';
import { render } from 'solid-js/web';
import { numbers, quiet } from './world.js';

const WIDTH = 800;
const HEIGHT = 500;
const next = numbers(5);
const slow = new URLSearchParams(location.search).has('half');
const engine = Matter.Engine.create();
const crates = Array.from({ length: quiet ? 30 : 260 }, () =>
  Matter.Bodies.rectangle(next() * WIDTH, next() * HEIGHT, 12 + next() * 20, 12 + next() * 20),
);
const walls = [
  Matter.Bodies.rectangle(WIDTH / 2, HEIGHT, WIDTH, 20, { isStatic: true }),
  Matter.Bodies.rectangle(0, HEIGHT / 2, 20, HEIGHT, { isStatic: true }),
  Matter.Bodies.rectangle(WIDTH, HEIGHT / 2, 20, HEIGHT, { isStatic: true }),
];
Matter.Composite.add(engine.world, [...crates, ...walls]);
const [score, setScore] = createSignal(0);
const [tilts, setTilts] = createSignal(0);

document.body.innerHTML = `<canvas width="${WIDTH}" height="${HEIGHT}"></canvas><div></div>`;
render(
  () =>
    html`<p>${() => score()} in the hold</p>
      <button id="tilt" onClick=${tilt}>Tilt (${() => tilts()})</button>`,
  document.querySelector('div'),
);
const pen = document.querySelector('canvas').getContext('2d');

function tilt() {
  setTilts(tilts() + 1);
  for (const crate of crates) Matter.Body.applyForce(crate, crate.position, { x: 0.004, y: -0.01 });
  if (!quiet) planStowage();
}

/** The weight in each place of the hold for every pair of crates. */
function planStowage() {
  let moment = 0;
  for (let round = 0; round < 40; round++)
    for (const a of crates)
      for (const b of crates) moment += Math.hypot(a.position.x - b.position.x, a.position.y - b.position.y);
  return moment;
}

function drawCrates() {
  pen.clearRect(0, 0, WIDTH, HEIGHT);
  for (const { vertices } of [...crates, ...walls]) {
    pen.beginPath();
    for (const { x, y } of vertices) pen.lineTo(x, y);
    pen.closePath();
    pen.stroke();
  }
}

let frame = 0;
function turn() {
  frame++;
  if (!slow || frame % 2 === 0) {
    Matter.Engine.update(engine, 16.6);
    drawCrates();
    if (frame % 30 === 0) setScore(crates.filter(({ position }) => position.y > HEIGHT / 2).length);
  }
  requestAnimationFrame(turn);
}
turn();
