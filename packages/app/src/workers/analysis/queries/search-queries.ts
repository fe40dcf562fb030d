import {
  feltText,
  interactionsOf,
  originalPath,
  shortPlace,
  type Recording,
  type Sting,
  secondsText,
} from '@nettle-patch/core';
import { namedFunction } from '../named-function';

/** Something found, with where it leads. */
export type SearchHit =
  | {
      readonly type: 'function';
      readonly words: string;
      readonly about: string;
      readonly functionId: number;
    }
  | { readonly type: 'sting'; readonly words: string; readonly about: string; readonly sting: number }
  | {
      readonly type: 'input' | 'request' | 'span';
      readonly words: string;
      readonly about: string;
      readonly startMs: number;
      readonly endMs: number;
      /** Its number in its lane of the time view. */
      readonly ref: number;
    };

const MAX_OF_A_KIND = 12;

/** Finds functions, stings, inputs, requests and named spans by a part of their name or place. */
export class SearchQueries {
  constructor(
    private readonly recording: Recording,
    private readonly stings: readonly Sting[],
  ) {}

  find(text: string): SearchHit[] {
    const wanted = text.trim().toLowerCase();
    if (wanted === '') return [];
    const some = (hits: Iterable<SearchHit>) => {
      const found: SearchHit[] = [];
      for (const hit of hits) {
        if (`${hit.words} ${hit.about}`.toLowerCase().includes(wanted)) found.push(hit);
        if (found.length === MAX_OF_A_KIND) break;
      }
      return found;
    };
    return [this.#stings(), this.#functions(), this.#inputs(), this.#requests(), this.#spans()].flatMap(some);
  }

  *#stings(): Generator<SearchHit> {
    for (const [at, sting] of this.stings.entries()) {
      const about = `${feltText(sting)}, at ${seconds(sting.startMs)}`;
      yield { type: 'sting', words: sting.label, about, sting: at };
    }
  }

  *#functions(): Generator<SearchHit> {
    for (const recorded of this.recording.functions.values()) {
      if (recorded.id < 0 || recorded.sameAs !== undefined || recorded.place === true) continue;
      const { name, place: whole, owner } = namedFunction(this.recording, recorded.id);
      const place = shortPlace(whole);
      const about = owner === 'own' ? place : `${place} · ${owner}`;
      yield { type: 'function', words: name, about, functionId: recorded.id };
    }
  }

  *#inputs(): Generator<SearchHit> {
    for (const [ref, { label, startMs, feltMs }] of interactionsOf(this.recording).entries()) {
      const about = `${Math.round(feltMs)} ms, at ${seconds(startMs)}`;
      yield { type: 'input', words: label, about, startMs, endMs: startMs + feltMs, ref };
    }
  }

  *#requests(): Generator<SearchHit> {
    let ref = 0;
    for (const { url, startMs, durationMs } of this.recording.events.request.rows()) {
      const about = `${Math.round(durationMs)} ms, at ${seconds(startMs)}`;
      yield {
        type: 'request',
        words: originalPath(url) || url,
        about,
        startMs,
        endMs: startMs + durationMs,
        ref,
      };
      ref++;
    }
  }

  *#spans(): Generator<SearchHit> {
    let ref = 0;
    for (const { name, type, startMs, durationMs } of this.recording.events.span.rows()) {
      const about = `${type}, at ${seconds(startMs)}`;
      yield { type: 'span', words: name, about, startMs, endMs: startMs + durationMs, ref };
      ref++;
    }
  }
}

function seconds(ms: number): string {
  return secondsText(ms);
}
