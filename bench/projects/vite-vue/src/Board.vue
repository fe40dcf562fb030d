<template>
  <main>
    <h1>Deck hot-1</h1>
    <button id="weigh" @click="onWeigh">Weigh</button>
    <ul>
      <li v-for="(tons, at) in loads" :key="at">{{ tons }} t</li>
    </ul>
  </main>
</template>

<script setup>
import { ref } from 'vue';

const loads = ref([]);

function weighDeck(cars) {
  const untilMs = performance.now() + 300;
  let tons = 0;
  while (performance.now() < untilMs) tons += Math.sqrt(tons + cars);
  return Math.round(tons);
}

function onWeigh() {
  loads.value.push(weighDeck(loads.value.length + 40));
}
</script>
