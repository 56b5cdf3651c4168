/** Sentences of the log that hang on what was found, each of them whole. */
export const text = {
  /** Of a song or pattern that is on the shelf and in the archive. */
  differs: (name: string, newer: boolean) =>
    newer
      ? `“${name}” is different here; the archive’s is newer`
      : `“${name}” is different here; the archive’s is older`,
};
