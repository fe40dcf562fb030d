const loads = [];

function weighDeck(cars) {
  const untilMs = performance.now() + 300;
  let tons = 0;
  while (performance.now() < untilMs) tons += Math.sqrt(tons + cars);
  return Math.round(tons);
}

document.getElementById('weigh').addEventListener('click', function onWeigh() {
  loads.push(weighDeck(loads.length + 40));
  document.getElementById('loads').innerHTML = loads.map((tons) => `<li>${tons} t</li>`).join('');
});
