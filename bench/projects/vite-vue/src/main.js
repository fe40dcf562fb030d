import { createApp } from 'vue';
import Board from './Board.vue';

createApp(Board).mount('#root');
