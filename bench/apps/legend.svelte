<script>
  let { sail } = $props();
  let groups = $state([]);
  let largest = $derived(groups.reduce((most, count) => Math.max(most, count), 0));
  export function tell(counts) {
    groups = counts;
  }
</script>

<button id="sail" onclick={sail}>Sail on</button>
<p>{groups.length} signs, the largest of {largest}</p>
<ul style="columns:20;font-size:6px">
  {#each groups as count, at (at)}
    <li>{count}</li>
  {/each}
</ul>
