import {
  type Arm,
  type ArmStyle,
  type Division,
  type Feel,
  type Meter,
  type Pattern,
  patternSchema,
} from '../schema';
import { countCycle, METERS } from '../time';
import { newPattern, setLength } from './pattern';
import { parsePattern } from '../stroke';

interface Row {
  name: string;
  meter: Meter;
  words: string;
  tags: string[];
  arm?: Partial<Arm>;
  feel?: Feel;
}

const {
  '4/4': FOUR,
  '3/4': THREE,
  '2/4': TWO,
  '5/4': FIVE,
  '6/8': SIX,
  '7/8': SEVEN,
  '9/8': NINE,
  '12/8': TWELVE,
} = METERS;
const SHUFFLE: Feel = { on: 'eighths', percent: 67 };
const sixteenths: Partial<Arm> = { halfSwings: 4 };
const school = (name: ArmStyle, halfSwings?: Division): Partial<Arm> => ({
  school: name,
  ...(halfSwings && { halfSwings }),
});
const CYCLE = countCycle(12, [12, 3, 6, 8, 10], 12);

/** What players of ukuleles start from: it comes first on a shelf beside one. */
export const UKULELE = 'ukulele';

/** Patterns of common practice, under plain names: the words are read when they are asked for. */
const ROWS: Row[] = [
  {
    name: 'Four downs',
    meter: FOUR,
    tags: ['first steps'],
    words: 'down miss, down miss, down miss, down miss',
  },
  {
    name: 'Down and up throughout',
    meter: FOUR,
    tags: ['first steps'],
    words: 'down up, down up, down up, down up',
  },
  {
    name: 'Down, down up',
    meter: FOUR,
    tags: ['first steps'],
    words: 'down miss, down up, down miss, down up',
  },
  {
    name: 'Missed three',
    meter: FOUR,
    tags: ['song circle'],
    words: 'down miss, down up, miss up, down up',
  },
  {
    name: 'Missed three with lift',
    meter: FOUR,
    tags: ['song circle'],
    words: 'down miss, DOWN up, miss up, DOWN up',
  },
  {
    name: 'Back-beat eighths',
    meter: FOUR,
    tags: ['drive'],
    words: 'down up, DOWN up, down up, DOWN up',
  },
  {
    name: 'Driving downs',
    meter: FOUR,
    tags: ['drive'],
    arm: school('all-downs'),
    words: 'DOWN down, down down, DOWN down, down down',
  },
  {
    name: 'Palm-muted downs',
    meter: FOUR,
    tags: ['drive', 'palm'],
    arm: school('all-downs'),
    words: 'PALM-DOWN palm-down, palm-down palm-down, PALM-DOWN palm-down, palm-down DOWN',
  },
  {
    name: 'Bass and strum',
    meter: FOUR,
    tags: ['country', 'bass'],
    words: 'bass miss, down miss, alternate miss, down miss',
  },
  {
    name: 'Bass and lift',
    meter: FOUR,
    tags: ['country', 'bass'],
    words: 'bass miss, down up, alternate miss, down up',
  },
  {
    name: 'Off-beat ups',
    meter: FOUR,
    tags: ['off-beat'],
    words: 'miss up, miss up, miss up, miss up',
  },
  {
    name: 'Off-beat chops',
    meter: FOUR,
    tags: ['off-beat', 'chuck'],
    words: 'miss miss, high-down chuck, miss miss, high-down chuck',
  },
  {
    name: 'Chucked back-beat',
    meter: FOUR,
    tags: ['chuck', 'song circle'],
    words: 'down miss, chuck up, miss up, chuck up',
  },
  {
    name: 'Three, three, two',
    meter: FOUR,
    tags: ['syncopated'],
    words: 'DOWN up, down UP, down up, DOWN up',
  },
  {
    name: 'Shuffle',
    meter: FOUR,
    tags: ['shuffle'],
    feel: SHUFFLE,
    words: 'down up, DOWN up, down up, DOWN up',
  },
  {
    name: 'Shuffle with chucks',
    meter: FOUR,
    tags: ['shuffle', 'chuck'],
    feel: SHUFFLE,
    words: 'down miss, chuck up, miss up, chuck up',
  },
  {
    name: 'Rolling sixteenths',
    meter: FOUR,
    tags: ['sixteenths'],
    arm: sixteenths,
    words: 'DOWN miss down up, down miss down up, DOWN miss down up, down miss down up',
  },
  {
    name: 'Scratch sixteenths',
    meter: FOUR,
    tags: ['sixteenths', 'chuck'],
    arm: sixteenths,
    words: 'DOWN miss (chuck) up, CHUCK miss miss UP, miss up down (chuck), CHUCK miss down up',
  },
  {
    name: 'Slow sixteenths with bass',
    meter: FOUR,
    tags: ['ballad', 'bass'],
    arm: sixteenths,
    words: 'bass miss down up, miss up down miss, alternate miss down up, miss up down up',
  },
  {
    name: 'Triplet ballad',
    meter: FOUR,
    tags: ['ballad', 'triplets'],
    arm: school('restart', 3),
    words: 'BASS up down, DOWN up down, alternate up down, DOWN up down',
  },
  {
    name: 'Outside-in picking',
    meter: FOUR,
    tags: ['picking'],
    arm: school('free'),
    words: 'R.p s3.i, s2.m s1.a, alternate:p s3.i, s2.m s1.a',
  },
  {
    name: 'Pinch and pick',
    meter: FOUR,
    tags: ['picking'],
    arm: school('free'),
    words: 'R.p+s1.a s2.m, R.p s3.i, R.p+s2.m s1.a, R.p s3.i',
  },
  {
    name: 'Tapped circle',
    meter: FOUR,
    tags: ['tap'],
    words: 'tap+down miss, tap up, down up, tap up',
  },
  {
    name: 'Island strum',
    meter: FOUR,
    tags: [UKULELE, 'song circle'],
    words: 'down.i miss, down.i up.i, miss up.i, down.i up.i',
  },
  {
    name: 'Calypso strum',
    meter: FOUR,
    tags: [UKULELE, 'syncopated'],
    words: 'DOWN.i miss, down.i up.i, miss up.i, DOWN.i miss',
  },
  {
    name: 'Triplet strum',
    meter: FOUR,
    tags: [UKULELE, 'triplets'],
    words: 'DOWN.i miss, down.i sweep-down.p sweep-up.i, down.i miss, down.i up.i',
  },
  {
    name: 'Split strum',
    meter: FOUR,
    tags: [UKULELE],
    words: 'DOWN.i miss, down.p:43 sweep-down.p:21, down.i up.i, down.p:43 sweep-down.p:21',
  },
  {
    name: 'Fan roll on the one',
    meter: FOUR,
    tags: [UKULELE, 'roll'],
    words: 'ROLL4:amip miss, down.i up.i, miss up.i, down.i up.i',
  },
  {
    name: 'Chunk on two and four',
    meter: FOUR,
    tags: [UKULELE, 'chuck'],
    words: 'down.i miss, CHUCK up.i, down.i miss, CHUCK up.i',
  },
  {
    name: 'Off-beats with chunks',
    meter: FOUR,
    tags: [UKULELE, 'off-beat', 'chuck'],
    words: 'chuck up.i, chuck up.i, chuck up.i, chuck up.i',
  },
  {
    name: 'Thumb and brush',
    meter: FOUR,
    tags: [UKULELE, 'thumb'],
    words: 's4.p miss, down.i up.i, s3.p miss, down.i up.i',
  },
  {
    name: 'Clawhammer',
    meter: FOUR,
    tags: [UKULELE, 'thumb', 'picking'],
    arm: school('free'),
    words: 's3.i miss, down.i s4.p, s2.i miss, down.i s4.p',
  },
  {
    name: 'p i m a across four strings',
    meter: FOUR,
    tags: [UKULELE, 'picking'],
    arm: school('free'),
    words: 's4.p s3.i, s2.m s1.a, s4.p s3.i, s2.m s1.a',
  },
  {
    name: 'p i p m on four strings',
    meter: FOUR,
    tags: [UKULELE, 'picking', 'thumb'],
    arm: school('free'),
    words: 's4.p s2.i, s3.p s1.m, s4.p s2.i, s3.p s1.m',
  },
  {
    name: 'Waltz for thumb and fingers',
    meter: THREE,
    tags: [UKULELE, 'waltz', 'thumb'],
    words: 's4.p miss, down.i miss, down.i up.i',
  },
  { name: 'Two-step', meter: TWO, tags: ['march', 'bass'], words: 'bass miss, down up' },
  {
    name: 'Quick two with rolls',
    meter: TWO,
    tags: ['roll'],
    arm: sixteenths,
    words: 'DOWN miss down up, roll4 miss down up',
  },
  {
    name: 'Plain waltz',
    meter: THREE,
    tags: ['waltz', 'bass'],
    words: 'BASS miss, down miss, down miss',
  },
  {
    name: 'Waltz with lift',
    meter: THREE,
    tags: ['waltz', 'bass'],
    words: 'BASS miss, down up, down up',
  },
  {
    name: 'Five in three and two',
    meter: FIVE,
    tags: ['odd'],
    words: 'DOWN miss, down up, down up, DOWN miss, down up',
  },
  {
    name: 'Rocking six',
    meter: SIX,
    tags: ['rocking'],
    arm: school('restart'),
    words: 'BASS, up, down, DOWN, up, down',
  },
  {
    name: 'Six with missed twos',
    meter: SIX,
    tags: ['jig'],
    words: 'DOWN, miss, down, UP, miss, up',
  },
  {
    name: 'Seven, two two three',
    meter: SEVEN,
    tags: ['odd'],
    words: 'DOWN, up, DOWN, up, DOWN, up, down',
  },
  {
    name: 'Nine in threes',
    meter: NINE,
    tags: ['slip jig'],
    arm: school('restart'),
    words: 'DOWN, up, down, DOWN, up, down, DOWN, up, DOWN',
  },
  {
    name: 'Slow twelve',
    meter: TWELVE,
    tags: ['ballad', 'bass'],
    arm: school('restart'),
    words: 'BASS, miss, down, DOWN, miss, down, alternate, miss, down, DOWN, up, down',
  },
  {
    name: 'Twelve counts from twelve',
    meter: CYCLE,
    tags: ['cycle', 'roll'],
    words: 'ROLL4, down, down, DOWN, down, down, DOWN, tap, DOWN, down, DOWN, tap',
  },
];

function read({ name, meter, words, tags, arm, feel }: Row): Pattern {
  const first = newPattern(meter, name);
  const base: Pattern = {
    ...setLength(first, meter.beats),
    arm: { ...first.arm, ...arm },
    tags,
    ...(feel && { feel }),
  };
  const reading = parsePattern(words, base);
  if (!('pattern' in reading)) {
    const why = 'problem' in reading ? reading.problem.message : 'it may be meant in several ways';
    throw new Error(`${name}: ${why}`);
  }
  return patternSchema.parse(reading.pattern);
}

let patterns: Pattern[] | undefined;

/**
 * The patterns that come with the app, over all meters and stroke kinds.
 * @example builtInPatterns()[0].name // 'Four downs'
 */
export function builtInPatterns(): Pattern[] {
  patterns ??= ROWS.map(read);
  return patterns;
}
