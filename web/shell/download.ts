import { fileName } from '#core/formats';

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
  // Where the browser asks for a place first, it reads the content only after the answer.
  setTimeout(() => URL.revokeObjectURL(link.href), 40_000);
}
