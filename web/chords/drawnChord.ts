import type { Chord, ChordSettings } from 'svguitar';

/** Diagrams by what they show; the oldest goes first. */
const drawnBefore = new Map<string, Element>();
const MAX_KEPT = 300;

type Package = typeof import('svguitar');

/**
 * The diagram of a chord, for one place of the page.
 *
 * The package measures each line and letter as it draws it, and the page would be laid out twenty times for a
 * diagram: so it draws in a corner that the rest of the page does not depend on, and the same is drawn once.
 * @param unused the share of its width on the left that holds nothing, and is left out
 * @example box.replaceChildren(drawnChord(svguitar, { fingers, barres: [] }, { strings: 4 }))
 */
export function drawnChord(
  { SVGuitarChord }: Package,
  chord: Chord,
  settings: ChordSettings,
  unused = 0,
): Element {
  const shows = JSON.stringify([chord, settings, unused]);
  const drawn = drawnBefore.get(shows) ?? draw();
  drawnBefore.delete(shows);
  drawnBefore.set(shows, drawn);
  if (drawnBefore.size > MAX_KEPT) drawnBefore.delete(drawnBefore.keys().next().value!);
  return drawn.cloneNode(true) as Element;

  function draw(): Element {
    const corner = document.createElement('div');
    corner.className = 'drawing-corner';
    document.body.append(corner);
    try {
      new SVGuitarChord(corner).configure(settings).chord(chord).draw();
      const diagram = corner.querySelector('svg')!;
      diagram.setAttribute('aria-hidden', 'true');
      const { x, y, width, height } = diagram.viewBox.baseVal;
      diagram.setAttribute(
        'viewBox',
        `${x + unused * width} ${y} ${(1 - unused) * width} ${height}`,
      );
      // Copies of it stand on one page, and an id names one element.
      for (const part of [diagram, ...diagram.querySelectorAll('[id]')]) part.removeAttribute('id');
      return diagram;
    } finally {
      corner.remove();
    }
  }
}
