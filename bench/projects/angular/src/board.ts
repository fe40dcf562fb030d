import { Component, signal } from '@angular/core';

function weighDeck(cars: number): number {
  const untilMs = performance.now() + 300;
  let tons = 0;
  while (performance.now() < untilMs) tons += Math.sqrt(tons + cars);
  return Math.round(tons);
}

@Component({
  selector: 'deck-board',
  template: `
    <main>
      <h1>Deck hot-1</h1>
      <button id="weigh" (click)="weigh()">Weigh</button>
      <ul>
        @for (tons of loads(); track $index) {
          <li>{{ tons }} t</li>
        }
      </ul>
    </main>
  `,
})
export class Board {
  protected readonly loads = signal<number[]>([]);

  protected weigh(): void {
    this.loads.update((loads) => [...loads, weighDeck(loads.length + 40)]);
  }
}
