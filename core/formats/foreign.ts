/** What files begin with, and what they are. */
const STARTS: [RegExp, string][] = [
  [/^%PDF/, 'a PDF file'],
  [/^PK[^\w\s]/, 'a ZIP file; an archive of everything is brought in on the Log'],
  [/^RIFF....WAVE/s, 'a sound; Practice listens to those'],
  [/^(ID3|fLaC|OggS)/, 'a sound; Practice listens to those'],
  [/^(\x89PNG|\xff\xd8\xff|GIF8)/, 'a picture'],
  [
    /^\s*(<\?xml[^>]*>\s*)?(<!--[^]*?-->\s*)?(<!DOCTYPE[^>]*>\s*)?<score-timewise/,
    'MusicXML by time; one by parts (score-partwise) can be read',
  ],
  [/^\s*<(!doctype html|html)/i, 'a web page'],
];

/**
 * What a file is that cannot be opened as a song, in a few words; null where it may be one.
 * @param start the first letters of the file, a byte each
 * @example foreignFile('%PDF-1.7') // 'a PDF file'
 */
export function foreignFile(start: string): string | null {
  return STARTS.find(([pattern]) => pattern.test(start))?.[1] ?? null;
}
