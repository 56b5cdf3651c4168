import type { Arrival, OpenStrokes, Pattern, Placement, Shape, Song, Travel } from '../schema';
import {
  type Command,
  commands,
  type LandingPlace,
  onRhythm,
  rhythmCommands,
  type RhythmTarget,
} from '../edit';

/** Something that gives the hand more time or less to do, as plain data: a worker can send it. */
export type HandEdit =
  | { do: 'travel'; places: LandingPlace[]; count: OpenStrokes; how: Travel }
  | { do: 'arrive'; places: LandingPlace[]; how: Arrival }
  | { do: 'push'; places: LandingPlace[]; push: Placement['push'] }
  | { do: 'delay'; places: LandingPlace[]; by: number }
  | { do: 'shape'; symbol: string; shape: Shape }
  | { do: 'thin'; target: RhythmTarget; pattern: Pattern }
  | { do: 'slow'; tempo: number };

function commandOf(edit: HandEdit): Command {
  switch (edit.do) {
    case 'travel':
      return rhythmCommands.setTravel(edit.places, edit.count, edit.how);
    case 'arrive':
      return rhythmCommands.setArrival(edit.places, edit.how);
    case 'push':
      return rhythmCommands.setPush(edit.places, edit.push);
    case 'delay':
      return rhythmCommands.moveChords(edit.places, edit.by);
    case 'shape':
      return commands.chooseShape(edit.symbol, edit.shape);
    case 'thin':
      return onRhythm(edit.target, commands.takeEdited('thin the last beat', edit.pattern));
    case 'slow':
      return commands.setTempo(edit.tempo);
  }
}

/**
 * The command that does some edits as one step.
 * @param name what undo calls it
 * @example handCommand('open the last stroke', edits).apply(song)
 */
export function handCommand(name: string, edits: HandEdit[]): Command {
  const list = edits.map(commandOf);
  return { name, apply: (song: Song) => list.reduce((now, { apply }) => apply(now), song) };
}
