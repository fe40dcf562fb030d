import { h, render } from 'preact';

await navigator.serviceWorker?.register('/worker.js').catch(() => undefined);
const { Board } = await import('./board.js');
render(h(Board), document.getElementById('root'));
