const LONGEST_SIDE_PX = 1600;
const QUALITY = 0.85;

/** The size a picture is sent in: no side longer than it will be kept by far. */
export function fitted(width: number, height: number, longest = LONGEST_SIDE_PX): [number, number] {
  const by = Math.min(1, longest / Math.max(width, height));
  return [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
}

/** A camera's picture in base64, brought down before it is sent: a phone's is ten times what is kept. */
export async function shrunk(file: File): Promise<string> {
  const picture = await createImageBitmap(file);
  const [width, height] = fitted(picture.width, picture.height);
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width, height });
  canvas.getContext('2d')!.drawImage(picture, 0, 0, width, height);
  picture.close();
  return canvas.toDataURL('image/jpeg', QUALITY).split(',')[1]!;
}
