import { download } from './download';

/** Points of a drawing to pixels: enough for a poster. */
const SHARP = 3;

/**
 * A drawing as PNG into the browser's downloads.
 * @param svg whole in itself, with its letters
 */
export async function downloadPng(svg: string, title: string): Promise<void> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = image.naturalWidth * SHARP;
  canvas.height = image.naturalHeight * SHARP;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('The picture could not be made.');
  download(blob, 'image/png', { title, ending: 'png' });
}

/** Fetches a drawing of the server and saves it as PNG. */
export async function savePicture(url: string, title: string): Promise<void> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('The picture could not be made.');
  await downloadPng(await response.text(), title);
}
