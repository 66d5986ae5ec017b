// Pictures are scaled down before they are sent; drawn anew they hold nothing of where
// they were taken.
const longest = 1600; // pixels
const most = 900_000; // bytes, under what the server takes

/** The size that a picture is drawn in. */
export function scaled(width: number, height: number, side = longest): [number, number] {
  const by = Math.min(1, side / Math.max(width, height));
  return [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
}

/** A JPEG of the picture that is small enough; rejects what is no picture. */
export async function shrink(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
  try {
    for (let side = longest; side > 200; side = Math.round(side * 0.7)) {
      const [width, height] = scaled(picture.width, picture.height, side);
      const canvas = document.createElement('canvas');
      canvas.width = width;
      canvas.height = height;
      const draw = canvas.getContext('2d')!;
      draw.fillStyle = '#fff'; // under what is transparent
      draw.fillRect(0, 0, width, height);
      draw.drawImage(picture, 0, 0, width, height);
      const out = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.85));
      if (out && out.size <= most) return out;
    }
  } finally {
    picture.close();
  }
  throw new Error('too large');
}
