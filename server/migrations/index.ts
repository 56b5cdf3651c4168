import type { QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';
import { songsAndPatterns } from './001-songs-and-patterns';
import { about } from './002-about';
import { changeTimes } from './003-change-times';
import { takes } from './004-takes';
import { log } from './005-log';
import { instruments } from './006-instruments';
import { recordings } from './007-recordings';
import { glance } from './008-glance';
import { takeSounds } from './009-take-sounds';
import { takeAnswers } from './010-take-answers';

/** In the order in which they are run; a migration that has shipped is never changed. */
export const migrations: RunnableMigration<QueryInterface>[] = [
  songsAndPatterns,
  about,
  changeTimes,
  takes,
  log,
  instruments,
  recordings,
  glance,
  takeSounds,
  takeAnswers,
];
