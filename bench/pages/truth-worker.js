// The worker of the page of known costs, see truth.js.

function inWorker() {
  for (const end = performance.now() + 80; performance.now() < end;);
}
addEventListener('message', () => inWorker());
