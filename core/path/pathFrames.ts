/** The measures of a wrist path in each size, in pixels of its drawing: where the band, the count and the words are. */
export const FRAMES = {
  big: {
    height: 318,
    pad: 14,
    top: 66,
    bottom: 246,
    bandTop: 98,
    bandBottom: 214,
    count: 284,
    word: 308,
  },
  middle: {
    height: 196,
    pad: 10,
    top: 40,
    bottom: 146,
    bandTop: 58,
    bandBottom: 128,
    count: 172,
    word: 191,
  },
  small: {
    height: 86,
    pad: 2,
    top: 30,
    bottom: 82,
    bandTop: 38,
    bandBottom: 74,
    count: 0,
    word: 0,
  },
  dense: {
    height: 72,
    pad: 2,
    top: 27,
    bottom: 69,
    bandTop: 33,
    bandBottom: 63,
    count: 0,
    word: 0,
  },
};
export const SMALL_WIDTH = 250;
/** Where twice as many bars stand in a row: flags and numbers stay as large as they were. */
export const DENSE_WIDTH = 150;
export const SCALES = { big: 1, middle: 0.72, small: 0.5 };
/** Below this many pixels a slot has no room for a word. */
export const WORD_ROOM = 46;
