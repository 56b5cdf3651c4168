/** Editing: commands on the song, undo and redo, and the rules that are kept while bars move. */
export * from './rules';
export * from './commands';
export * from './rhythmCommands';
export * from './barCommands';
export * from './history';
export * from './kept';
export * from './wedge';
export * from './ownName';
export * from './plantChord';
