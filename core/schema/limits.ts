/** The limits of a document, by name: what is refused beyond them, and why they are where they are. */

/** Letters of a title, of the name of a section or passage, of a pattern, of an instrument. */
export const MAX_TITLE_LETTERS = 120;
export const MAX_SECTION_LETTERS = 40;
export const MAX_PATTERN_LETTERS = 80;
export const MAX_INSTRUMENT_LETTERS = 60;
export const MAX_TAG_LETTERS = 24;
export const MAX_NOTE_LETTERS = 2000;
/** Letters of an answer to a take that was sent. */
export const MAX_ANSWER_LETTERS = 2000;
export const MAX_CHORD_LETTERS = 24;
/** Letters of a bar that cannot be read which are kept. */
export const MAX_UNREAD_LETTERS = 4000;

/** How often a line, a passage or a section may come round in a row. */
export const MAX_TIMES = 32;
export const MAX_SECTIONS = 100;
export const MAX_LINES = 200;
export const MAX_BARS_OF_LINE = 500;
export const MAX_PASSAGES = 200;
export const MAX_CHORDS_OF_BAR = 32;
export const MAX_SUBSTITUTES = 8;
export const MAX_TIMED_RHYTHMS = 8;
export const MAX_CHORD_PATTERNS = 60;
export const MAX_SHAPES = 200;
/** Different chords, those that stand in for others included: every one has to be found on the neck. */
export const MAX_DIFFERENT_CHORDS = 400;

/** The most beats a pattern may have: eight bars of the longest meter. */
export const MAX_BEATS = 128;
export const MAX_BUILDS = 16;
export const MAX_TAGS = 12;

/** Chords that one timing of a change may count: more than one a second for five minutes. */
export const MAX_GAPS = 500;

/** Strokes of one take: sixteenths for half an hour at a quick tempo. */
export const MAX_ONSETS = 20_000;
/** Rows that a file of the player's own brings: more than forty years of evenings. */
export const MAX_ROWS_AT_ONCE = 20_000;
/** Rows of the log that an archive brings. */
export const MAX_LOG_ROWS = 200_000;
/** Strokes, places and changes of a take that is judged, and letters of what is said of it. */
export const MAX_JUDGED_STROKES = 20_000;
export const MAX_SLOTS_JUDGED = 2000;
export const MAX_SENTENCE_LETTERS = 600;

/**
 * What a song may unfold to. 4,000 bars of 4/4 are more than an hour at any tempo that is strummed, and
 * 100,000 strokes are sixteenths through a whole evening; what is worked out for them takes seconds.
 */
export const MAX_BARS_PLAYED = 4000;
export const MAX_STROKES_PLAYED = 100_000;

/** Notes of a line in one bar. */
export const MAX_TUNE_NOTES = 64;

/** Words under one bar, the letters of one, and verses that go to the same bars. */
export const MAX_WORDS = 128;
export const MAX_WORD_LETTERS = 80;
export const MAX_VERSES = 8;

/** The longest bar in ticks: sixteen half notes, at 960 to the quarter. */
export const MAX_BAR_TICKS = 61_440;
