import { fileName } from '#core';

/** Hands a file to the browser's downloads. */
export function download(
  content: BlobPart,
  type: string,
  { title, ending }: { title: string; ending: string },
): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content], { type }));
  link.download = `${fileName(title)}.${ending}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
