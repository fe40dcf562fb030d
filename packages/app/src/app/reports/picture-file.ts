/** Twice as many pixels as the drawing is wide, so that it is sharp on any display. */
const SCALE = 2;

/**
 * An SVG drawing that refers to nothing else as a PNG picture.
 * @throws Error where the browser cannot draw it
 */
export async function pictureOf(svg: string): Promise<Blob> {
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const canvas = document.createElement('canvas');
    canvas.width = image.naturalWidth * SCALE;
    canvas.height = image.naturalHeight * SCALE;
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise((resolve, reject) =>
      canvas.toBlob(
        (blob) => (blob === null ? reject(new Error('the picture is too large')) : resolve(blob)),
        'image/png',
      ),
    );
  } finally {
    URL.revokeObjectURL(url);
  }
}
