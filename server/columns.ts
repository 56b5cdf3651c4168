import { meterName, type Pattern, type Song } from '#core';

/** The columns that a song is found and listed by, beside its document. */
export const songColumns = ({ title, instrument, meter, tempo }: Song) => ({
  title,
  instrument: instrument.name,
  meter: meterName(meter),
  tempo,
});

/** The columns that a pattern is found and listed by. */
export const patternColumns = ({ name, meter }: Pattern) => ({ name, meter: meterName(meter) });
