import { describe, expect, it } from 'vitest';
import { USUAL_SHEET } from '#core/sheet';
import { another, MAX_READERS, readReaders, sayReader, usualCircle, wishOf } from './readers';

describe('the readers of a circle', () => {
  it('are kept as they are', () => {
    const kept = [...usualCircle(), another(usualCircle())];
    expect(readReaders(JSON.parse(JSON.stringify(kept)))).toEqual(kept);
  });

  it('are read as far as they can be, whatever a browser has kept', () => {
    expect(readReaders('nothing')).toEqual(usualCircle());
    expect(readReaders([])).toEqual([]);
    const [reader] = readReaders([
      null,
      { name: 7, audience: 'king', instrument: 'spoons', large: 'yes' },
    ]);
    expect(reader).toMatchObject({ name: '', audience: 'player', instrument: 'own', large: false });
    expect(readReaders(Array.from({ length: 90 }, () => ({ name: 'x' })))).toHaveLength(
      MAX_READERS,
    );
  });

  it('each have a sheet of their own, with their name on it', () => {
    const [guitars, , first] = usualCircle();
    const wish = wishOf(first!, { ...USUAL_SHEET, paper: 'letter' });
    expect(wish).toMatchObject({
      paper: 'letter',
      audience: 'beginner',
      instrument: 'ukulele',
      reader: 'ukulele, first evenings',
    });
    expect(wishOf({ ...guitars!, name: ' ', instrument: 'own' }, USUAL_SHEET)).toMatchObject({
      instrument: null,
      reader: undefined,
    });
  });

  it('are said in a few words', () => {
    const [, , , , sings] = usualCircle();
    expect(sayReader(sings!)).toBe('as the song is, a singer, large print');
    expect(sayReader({ ...usualCircle()[1]!, notation: 'tab', leftHanded: true })).toBe(
      'Ukulele, a player, tablature, left hand',
    );
  });
});
