import { unzip } from 'fflate';
import { Refusal } from './errors';

export interface ZipBounds {
  /** Bytes that all files together may unfold to. */
  bytes: number;
  files: number;
  /** What is said of a file that is no ZIP, and of one that unfolds to more. */
  noZip: string;
  tooMuch: string;
  /** Files that are unfolded; the others only count. */
  wanted?: (name: string) => boolean;
  /** Bytes that one of them may have; as many as there may be where it is left out. */
  largest?: (name: string) => number;
}

/**
 * The files of a ZIP by their names. Nothing beyond the bounds is unfolded: what a file claims to unfold to
 * is added up before it is.
 * @throws Refusal 400 where it is none, or unfolds to more
 */
export function unpacked(
  bytes: Uint8Array,
  { bytes: most, files, noZip, tooMuch, wanted = () => true, largest = () => most }: ZipBounds,
): Promise<Record<string, Uint8Array>> {
  let [total, count] = [0, 0];
  const filter = ({ name, originalSize }: { name: string; originalSize: number }) => {
    total += originalSize > largest(name) ? Infinity : originalSize;
    count += 1;
    return total <= most && count <= files && wanted(name);
  };
  return new Promise((resolve, reject) => {
    unzip(bytes, { filter }, (error, found) => {
      if (error) reject(new Refusal(400, { error: noZip }));
      else if (total > most || count > files) reject(new Refusal(400, { error: tooMuch }));
      else resolve(found);
    });
  });
}
