<script>
  let loads = $state([]);

  function weighDeck(cars) {
    const untilMs = performance.now() + 300;
    let tons = 0;
    while (performance.now() < untilMs) tons += Math.sqrt(tons + cars);
    return Math.round(tons);
  }

  function onWeigh() {
    loads.push(weighDeck(loads.length + 40));
  }
</script>

<main>
  <h1>Deck hot-1</h1>
  <button id="weigh" onclick={onWeigh}>Weigh</button>
  <ul>
    {#each loads as tons}
      <li>{tons} t</li>
    {/each}
  </ul>
</main>
