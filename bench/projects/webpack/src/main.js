import { h, render } from 'preact';
import { Board } from './board.js';

const root = document.getElementById('root');
render(h(Board), root);
if (module.hot) module.hot.accept('./board.js', () => render(h(Board), root));
