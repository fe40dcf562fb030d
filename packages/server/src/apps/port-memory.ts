import { readFile } from 'node:fs/promises';
import { number, object } from 'yup';
import { MAX_PORT } from '../listen';
import { cachePath, writeWhole } from '../user-cache';

/** Apps beyond these are forgotten, the one that was served longest ago first. */
const MAX_APPS = 200;

const portSchema = number().integer().min(1).max(MAX_PORT).required();
const fileSchema = object({ ports: object<Record<string, unknown>>().required() });

/**
 * Remembers at which port each app was opened, so that each keeps an origin of its own from run to run: what one app
 * left in a browser (service workers, storage, caches) then never answers for another.
 */
export class PortMemory {
  #ports: Promise<Map<string, number>> | undefined;

  constructor(private readonly file = cachePath('ports.json')) {}

  async portOf(target: string): Promise<number | undefined> {
    return (await this.#known()).get(target);
  }

  /** The app that a port belongs to. */
  async ownerOf(port: number): Promise<string | undefined> {
    return [...(await this.#known())].find(([, taken]) => taken === port)?.[0];
  }

  /** The first port from one on that belongs to no app. */
  async freeFrom(port: number): Promise<number> {
    const taken = new Set((await this.#known()).values());
    let free = port;
    while (taken.has(free) && free < MAX_PORT) free++;
    return free;
  }

  /** Notes where an app is opened now; whatever was there before is forgotten. */
  async keep(target: string, port: number): Promise<void> {
    const ports = await this.#known();
    for (const [other, taken] of ports) if (taken === port) ports.delete(other);
    ports.delete(target);
    ports.set(target, port);
    for (const oldest of ports.keys()) {
      if (ports.size <= MAX_APPS) break;
      ports.delete(oldest);
    }
    await this.#write(ports);
  }

  #known(): Promise<Map<string, number>> {
    return (this.#ports ??= this.#read());
  }

  /** What cannot be read is begun anew: an app then has another port than it had. */
  async #read(): Promise<Map<string, number>> {
    try {
      const { ports } = fileSchema.validateSync(JSON.parse(await readFile(this.file, 'utf8')));
      const known = Object.entries(ports).filter((entry): entry is [string, number] =>
        portSchema.isValidSync(entry[1], { strict: true }),
      );
      return new Map(known);
    } catch {
      return new Map();
    }
  }

  async #write(ports: ReadonlyMap<string, number>): Promise<void> {
    try {
      await writeWhole(this.file, JSON.stringify({ ports: Object.fromEntries(ports) }));
    } catch {
      // Without a disk to write to, ports hold for this run.
    }
  }
}
