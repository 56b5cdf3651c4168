import type { InstrumentId } from '#core/schema';
import { INSTRUMENT_IDS, INSTRUMENTS } from '#core/neck';
import { type Audience, AUDIENCES, type Notation, type SheetWish } from '#core/sheet';

/** The song's own instrument, whatever it is. */
export const OWN = 'own';

/** A person or a place in the circle that gets a sheet: how they read, and what they play. */
export interface Reader {
  name: string;
  audience: Audience;
  instrument: InstrumentId | typeof OWN;
  notation: Notation;
  large: boolean;
  leftHanded: boolean;
}

export const BARS_AS: { label: string; value: Notation }[] = [
  { label: 'wrist path', value: 'path' },
  { label: 'tablature', value: 'tab' },
  { label: 'slashes on a staff', value: 'slashes' },
  { label: 'path and tablature', value: 'path and tab' },
  { label: 'path and slashes', value: 'path and slashes' },
];
export const READS: { label: string; value: Audience }[] = [
  { label: 'a player', value: 'player' },
  { label: 'a leader: order and cues', value: 'leader' },
  { label: 'a beginner', value: 'beginner' },
  { label: 'a singer: lyrics and chords', value: 'singer' },
];

export const MAX_READERS = 40;
const MAX_NAME_LETTERS = 40;

const newReader = (name: string, other: Partial<Reader> = {}): Reader => ({
  name,
  audience: 'player',
  instrument: OWN,
  notation: 'path',
  large: false,
  leftHanded: false,
  ...other,
});

/** A circle to begin with. */
export const usualCircle = (): Reader[] => [
  newReader('guitars', { instrument: 'guitar' }),
  newReader('ukuleles', { instrument: 'ukulele' }),
  newReader('ukulele, first evenings', { instrument: 'ukulele', audience: 'beginner' }),
  newReader('leader', { audience: 'leader' }),
  newReader('singer', { audience: 'singer', large: true }),
];

/** Another reader, alike to the last. */
export function another(readers: Reader[]): Reader {
  return { ...(readers.at(-1) ?? newReader('')), name: `reader ${readers.length + 1}` };
}

/** What was kept, as far as it can be read: a browser keeps what older versions wrote, and what people change. */
export function readReaders(kept: unknown): Reader[] {
  if (!Array.isArray(kept)) return usualCircle();
  return kept.slice(0, MAX_READERS).flatMap((one: unknown) => {
    if (typeof one !== 'object' || one === null) return [];
    const { name, audience, instrument, notation, large, leftHanded } = one as Partial<Reader>;
    const usual = newReader(typeof name === 'string' ? name.slice(0, MAX_NAME_LETTERS) : '');
    return [
      {
        ...usual,
        audience: AUDIENCES.find((known) => known === audience) ?? usual.audience,
        instrument: INSTRUMENT_IDS.find((known) => known === instrument) ?? usual.instrument,
        notation: BARS_AS.find(({ value }) => value === notation)?.value ?? usual.notation,
        large: large === true,
        leftHanded: leftHanded === true,
      },
    ];
  });
}

/** What a reader's sheet is, on the paper that was chosen. */
export const wishOf = (
  { name, audience, instrument, notation, large, leftHanded }: Reader,
  paper: SheetWish,
): SheetWish => ({
  ...paper,
  audience,
  instrument: instrument === OWN ? null : instrument,
  notation,
  large,
  leftHanded,
  reader: name.trim() || undefined,
});

/** A reader in a few words. @example sayReader(moss) // 'Ukulele, a beginner, large print' */
export function sayReader({ audience, instrument, notation, large, leftHanded }: Reader): string {
  return [
    instrument === OWN ? 'as the song is' : INSTRUMENTS[instrument].name,
    READS.find(({ value }) => value === audience)!.label.replace(/:.*/, ''),
    audience !== 'singer' && notation !== 'path'
      ? BARS_AS.find(({ value }) => value === notation)!.label
      : null,
    large ? 'large print' : null,
    leftHanded ? 'left hand' : null,
  ]
    .filter((part) => part !== null)
    .join(', ');
}
