/** A picture as it is shown and sent. */
export interface Shown {
  url: string;
  data: string;
  width: number;
  height: number;
}

/** The corners of the neutral card, in the order in which they are pointed at. */
export const cardCorners = [
  'upper left corner of the card',
  'upper right corner',
  'lower right corner',
  'lower left corner',
];

/** How large a photograph is shown and read at most, pixels. */
const longest = 1400;

/** Reads a file, no larger than is needed. */
export async function readPicture(file: File, most = longest, type = 'image/png'): Promise<Shown> {
  const image = await createImageBitmap(file);
  const k = Math.min(1, most / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(image.width * k);
  canvas.height = Math.round(image.height * k);
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const url = canvas.toDataURL(type, 0.95);
  return { url, data: url.slice(url.indexOf(',') + 1), width: canvas.width, height: canvas.height };
}
