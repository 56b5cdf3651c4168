import { Router } from 'express';
import { bassRuleSchema, capoSchema, chordTextSchema, instrumentIdSchema } from '#core/schema';
import {
  bassNote,
  describeBass,
  describeStrings,
  INSTRUMENTS,
  parseChord,
  shapePitches,
  shapesFor,
} from '#core/neck';
import { z } from 'zod';
import { check, Refusal } from '../errors';

const querySchema = z.strictObject({
  instrument: instrumentIdSchema,
  chord: chordTextSchema,
  capo: z.coerce.number().pipe(capoSchema).default(0),
  bass: bassRuleSchema.default('root'),
});

/** The shapes of one chord, each with its pitches, the strings to sound and its bass note. */
export function shapeRoutes() {
  const router = Router();
  router.get('/', (request, response) => {
    const query = check(querySchema, request.query);
    const chord = parseChord(query.chord);
    if (!chord) {
      const message = `“${query.chord}” is not a chord we know`;
      throw new Refusal(400, { error: `${message}.`, problems: [{ path: 'chord', message }] });
    }
    const instrument = INSTRUMENTS[query.instrument];
    const shapes = shapesFor(instrument, chord).map((shape) => {
      const bass = bassNote(instrument, shape, chord, query.bass, query.capo);
      return {
        ...shape,
        pitches: shapePitches(instrument, shape, query.capo),
        strings: describeStrings(instrument, shape),
        bass: bass && { ...bass, words: describeBass(instrument, bass) },
      };
    });
    response.json({ chord: chord.symbol, notes: chord.noteNames, shapes });
  });
  return router;
}
