import { Component, h } from 'preact';

function weighDeck(cars) {
  const untilMs = performance.now() + 300;
  let tons = 0;
  while (performance.now() < untilMs) tons += Math.sqrt(tons + cars);
  return Math.round(tons);
}

export class Board extends Component {
  state = { loads: [] };

  render() {
    const { loads } = this.state;
    const onClick = () => this.setState({ loads: [...loads, weighDeck(loads.length + 40)] });
    return h('main', null, [
      h('h1', null, 'Deck hot-1'),
      h('button', { id: 'weigh', onClick }, 'Weigh'),
      h(
        'ul',
        null,
        loads.map((tons) => h('li', null, `${tons} t`)),
      ),
    ]);
  }
}
