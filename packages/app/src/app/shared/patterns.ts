/** A second cue beside colour: how an area is filled. */
export type Texture = 'solid' | 'hatch' | 'lines' | 'dots' | 'cross';

const CELL = 6;
const cache = new Map<string, CanvasPattern>();

function drawCell(context: CanvasRenderingContext2D, texture: Texture): void {
  context.beginPath();
  if (texture === 'hatch' || texture === 'cross') {
    for (const shift of [-CELL, 0, CELL]) {
      context.moveTo(shift, CELL);
      context.lineTo(shift + CELL, 0);
    }
  }
  if (texture === 'cross') {
    for (const shift of [-CELL, 0, CELL]) {
      context.moveTo(shift, 0);
      context.lineTo(shift + CELL, CELL);
    }
  }
  if (texture === 'lines') {
    context.moveTo(0, 1.5);
    context.lineTo(CELL, 1.5);
    context.moveTo(0, 4.5);
    context.lineTo(CELL, 4.5);
  }
  if (texture === 'dots') context.arc(CELL / 2, CELL / 2, 1.3, 0, 2 * Math.PI);
}

/** A fill of a colour in a texture, on a ground, as sharp as the pixels of the screen allow. */
export function fillOf(
  context: CanvasRenderingContext2D,
  texture: Texture,
  colour: string,
  ground: string,
): string | CanvasPattern {
  if (texture === 'solid') return colour;
  const scale = Math.max(1, Math.ceil(context.getTransform().a));
  const key = `${texture} ${colour} ${ground} ${scale}`;
  let pattern = cache.get(key);
  if (pattern === undefined) {
    const cell = document.createElement('canvas');
    cell.width = CELL * scale;
    cell.height = CELL * scale;
    const inner = cell.getContext('2d')!;
    inner.scale(scale, scale);
    inner.fillStyle = ground;
    inner.fillRect(0, 0, CELL, CELL);
    inner.fillStyle = colour;
    inner.strokeStyle = colour;
    inner.lineWidth = texture === 'lines' ? 1.5 : 1.8;
    drawCell(inner, texture);
    if (texture === 'dots') inner.fill();
    else inner.stroke();
    pattern = context.createPattern(cell, 'repeat')!;
    pattern.setTransform(new DOMMatrix().scale(1 / scale));
    cache.set(key, pattern);
  }
  return pattern;
}
