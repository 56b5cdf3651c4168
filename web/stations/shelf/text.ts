import { plural } from '#core/plain';

/** Sentences of the shelf and of a new song that hang on what is in a file, each of them whole. */
export const text = {
  barsStay: (withWords: boolean) =>
    withWords
      ? 'Bars of the file stay as they are; its words come with their chords. Change what is not right.'
      : 'Bars of the file stay as they are. Change what is not right.',

  unsureBars: (bars: number) =>
    bars === 1
      ? '1 bar of its tablature does not say when notes come. Read them in'
      : `${bars} bars of its tablature do not say when notes come. Read them in`,

  leftOut: (things: number) =>
    `${plural(things, 'thing of the file is', 'things of the file are')} left out`,
};
