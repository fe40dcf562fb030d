/** A map of the islands: buoys and ferries on tiles that are drawn here. */
import L from 'leaflet';
import { mount } from 'svelte';
import Legend from './legend.svelte';
import { numbers, quiet } from './world.js';

document.body.innerHTML = '<div id="map" style="height:600px"></div><aside></aside>';
const next = numbers(11);
const map = L.map('map', { zoomAnimation: true, fadeAnimation: false }).setView([0, 0], 6);

const Sea = L.GridLayer.extend({
  createTile({ x, y, z }) {
    const tile = L.DomUtil.create('canvas');
    tile.width = tile.height = 256;
    const pen = tile.getContext('2d');
    if (quiet) {
      pen.fillStyle = (x + y) % 2 ? '#cfe3ea' : '#c5dde6';
      pen.fillRect(0, 0, 256, 256);
    } else drawSoundings(pen, x, y, z);
    return tile;
  },
});

/** Depths by layers of waves, one number a pixel. */
function drawSoundings(pen, x, y, z) {
  const image = pen.createImageData(256, 256);
  for (let row = 0; row < 256; row++) {
    for (let column = 0; column < 256; column++) {
      let depth = 0;
      for (let octave = 1; octave < 4; octave++) {
        const wave = octave / 2 ** z;
        depth += Math.sin((x * 256 + column) * wave) * Math.cos((y * 256 + row) * wave);
      }
      image.data.set([150, 190 + depth * 15, 210 + depth * 10, 255], (row * 256 + column) * 4);
    }
  }
  pen.putImageData(image, 0, 0);
}

new Sea().addTo(map);
const buoys = Array.from({ length: quiet ? 40 : 1200 }, (_, id) => {
  const place = [next() * 16 - 8, next() * 24 - 12];
  const icon = L.divIcon({ className: 'buoy', html: `<b>${id}</b>` });
  return quiet ? L.circleMarker(place, { radius: 4 }).addTo(map) : L.marker(place, { icon }).addTo(map);
});

const legend = mount(Legend, {
  target: document.querySelector('aside'),
  props: { sail: () => map.panTo([next() * 4 - 2, next() * 6 - 3]) },
});

/** Buoys that lie so close that one sign stands for them. */
function gather() {
  const places = buoys.map((buoy) => map.latLngToContainerPoint(buoy.getLatLng()));
  const groups = [];
  for (const place of places) {
    const group = groups.find((other) => other.place.distanceTo(place) < 12);
    if (group) group.count++;
    else groups.push({ place, count: 1 });
  }
  return groups;
}

map.on(quiet ? 'moveend' : 'move', () => legend.tell(gather().map(({ count }) => count)));
