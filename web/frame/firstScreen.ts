/** Milliseconds after which what can wait waits no longer. */
const LONGEST = 2500;

let there: () => void = () => undefined;
/** Fulfilled once the page shows what the player came for, or after a while. */
export const firstScreen = new Promise<void>((resolve) => {
  there = resolve;
  setTimeout(resolve, LONGEST);
});

/** Told by the first station as soon as it shows something. */
export const firstScreenIsThere = () => there();
