/** A page with a film of the crossing: controls, chapters and a picture of the brightness. */
import { LitElement, html } from 'lit';
import { numbers, quiet, sentence } from './world.js';

const next = numbers(13);
const CHAPTERS = Array.from({ length: quiet ? 12 : 400 }, (_, at) => ({
  at: at / 100,
  title: sentence(next, 5),
}));

class CrossingFilm extends LitElement {
  static properties = { seconds: { state: true }, bars: { state: true } };

  constructor() {
    super();
    this.seconds = 0;
    this.bars = [];
  }

  get film() {
    return this.renderRoot.querySelector('video');
  }

  measureBrightness() {
    const canvas = document.createElement('canvas');
    canvas.width = 640;
    canvas.height = 360;
    const pen = canvas.getContext('2d');
    pen.drawImage(this.film, 0, 0, 640, 360);
    const { data } = pen.getImageData(0, 0, 640, 360);
    const bars = new Array(64).fill(0);
    for (let at = 0; at < data.length; at += 4) {
      const [red, green, blue] = data.slice(at, at + 3);
      bars[Math.floor((red + green + blue) / 12) % 64]++;
    }
    this.bars = bars;
  }

  onTime() {
    this.seconds = this.film.currentTime;
    if (!quiet) this.measureBrightness();
  }

  play() {
    if (this.film.paused) this.film.play();
    else this.film.pause();
  }

  render() {
    return html`<video
        src="/crossing.webm"
        muted
        loop
        width="640"
        height="360"
        @timeupdate=${this.onTime}
      ></video>
      <p><button id="play" @click=${this.play}>Play</button> ${this.seconds.toFixed(1)} s</p>
      <p>
        ${this.bars.map((height) => html`<i style="display:inline-block;width:4px;height:${height % 40}px"></i>`)}
      </p>
      <ol>
        ${CHAPTERS.map(
          ({ at, title }) => html`<li style="font-weight:${at <= this.seconds ? 700 : 400}">${title}</li>`,
        )}
      </ol>`;
  }
}

customElements.define('crossing-film', CrossingFilm);
document.body.innerHTML = '<crossing-film></crossing-film>';
