import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import { type Entry, newEntrySchema } from '../schema';
import { CSV_FIELDS, guessColumns, logCsv, moreCsv, readRows, readTable } from './csv';

const ROW: Entry = {
  id: '00000000-0000-4000-8000-000000000000',
  madeAt: '2031-05-08T19:00:00.000Z',
  kind: 'note',
  songId: null,
  song: '=1+1',
  instrument: null,
  rung: null,
  hands: null,
  from: null,
  to: null,
  whole: false,
  tempo: null,
  seconds: 0,
  source: 'by hand',
  trouble: null,
  within: null,
  median: null,
  spread: null,
  change: null,
  place: null,
  text: 'two, "quoted"\nlines',
};

describe('files of the log', () => {
  it('are read whatever the columns are called, and each fault is told by its line', () => {
    const table = readTable(
      'Day;Piece;BPM;Min;How\n2031-05-08;Weir;72;20;clean\n9.5.2031;"Lock; long";70;15,5;\n31.2.2031;x;;;\n2031-05-09;y;fast;;\n2031-05-09;z;70;;lovely',
    );
    const columns = guessColumns(table.header);
    expect(Object.keys(columns)).toEqual(CSV_FIELDS.filter((field) => field !== 'note'));
    const { entries, problems } = readRows(table, columns);
    expect(entries).toEqual([
      {
        kind: 'take',
        madeAt: '2031-05-08T19:00:00.000Z',
        song: 'Weir',
        tempo: 72,
        seconds: 1200,
        trouble: 'clean',
      },
      {
        kind: 'practice',
        madeAt: '2031-05-09T19:00:00.000Z',
        song: 'Lock; long',
        tempo: 70,
        seconds: 930,
      },
    ]);
    expect(problems.map(({ line }) => line)).toEqual([4, 5, 6]);
    expect(() => readTable('date,song')).toThrow(RangeError);
  });

  it('never write a cell that a spreadsheet would run', () => {
    const text = logCsv([ROW]);
    expect(text).toContain("'=1+1");
    // The wide forms of East Asian keyboards, and what hides behind letters that nobody sees.
    for (const song of ['\uFF1D1+1', '\u200B=1+1', ' @x', '\u2060\uFF0Bx', '\uFE631', '-1']) {
      expect(logCsv([{ ...ROW, song }])).toContain(`,'${song}`);
    }
    expect(logCsv([{ ...ROW, song: 'Weir-Stones' }])).toContain(',Weir-Stones,');
    expect(readTable(text).rows[0]![16]).toBe('two, "quoted"\nlines');
  });

  it('are the same written at once and bit by bit', () => {
    const rows = ['a', 'b, "c"', '=d', ''].map((song) => ({ ...ROW, song }));
    expect(logCsv(rows.slice(0, 1)) + moreCsv(rows.slice(1)) + moreCsv([])).toBe(logCsv(rows));
  });

  it('any table that is read gives rows that may be kept', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ maxLength: 12 }), { minLength: 6, maxLength: 6 }), {
          minLength: 1,
          maxLength: 8,
        }),
        (rows) => {
          const columns = { date: 0, song: 1, tempo: 2, minutes: 3, went: 4, note: 5 };
          const { entries, problems } = readRows({ header: [], rows }, columns);
          expect(entries.length + problems.length).toBe(rows.length);
          expect(entries.every((entry) => newEntrySchema.safeParse(entry).success)).toBe(true);
        },
      ),
      tries(200),
    );
  });
});
