'use client';

import { useState } from 'react';

function weighDeck(cars) {
  const untilMs = performance.now() + 300;
  let tons = 0;
  while (performance.now() < untilMs) tons += Math.sqrt(tons + cars);
  return Math.round(tons);
}

export function Board() {
  const [loads, setLoads] = useState([]);
  const onWeigh = () => setLoads([...loads, weighDeck(loads.length + 40)]);
  return (
    <main>
      <h1>Deck hot-1</h1>
      <button id="weigh" onClick={onWeigh}>
        Weigh
      </button>
      <ul>
        {loads.map((tons, at) => (
          <li key={at}>{tons} t</li>
        ))}
      </ul>
    </main>
  );
}
