import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';
import type { Entry } from '#core/schema';

/** What songs and patterns have in common: the document as JSON text and the revision it is at. */
export interface StoredRow<Self extends Model> extends Model<
  InferAttributes<Self>,
  InferCreationAttributes<Self>
> {
  id: string;
  revision: number;
  meter: string;
  document: string;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
}

export interface SongRow extends StoredRow<SongRow> {
  title: string;
  instrument: string;
  tempo: number;
  /** As JSON; null where the song was not looked at yet. */
  glance: CreationOptional<string | null>;
}

export interface PatternRow extends StoredRow<PatternRow> {
  name: string;
}

/** A timed change: its strings as text for finding it, the rest as JSON. */
export interface ChangeTimeRow extends Model<
  InferAttributes<ChangeTimeRow>,
  InferCreationAttributes<ChangeTimeRow>
> {
  id: string;
  madeAt: Date;
  strings: string;
  timing: string;
}

/** A recording beside a song: its file in the data folder, and the beat map with its landings as JSON. */
export interface RecordingRow extends Model<
  InferAttributes<RecordingRow>,
  InferCreationAttributes<RecordingRow>
> {
  songId: string;
  name: string;
  type: string;
  file: string;
  bytes: number;
  madeAt: Date;
  map: string;
}

/** A judged take: what it is listed by, the whole judgement as JSON. */
export interface TakeRow extends Model<InferAttributes<TakeRow>, InferCreationAttributes<TakeRow>> {
  id: string;
  songId: string;
  madeAt: Date;
  tempo: number;
  from: number;
  to: number;
  source: string;
  trouble: string;
  sentence: string;
  rung: string | null;
  hands: string | null;
  answer: string | null;
  judgement: string;
}

/** Where the sound of a take lies, in the data folder. */
export interface TakeSoundRow extends Model<
  InferAttributes<TakeSoundRow>,
  InferCreationAttributes<TakeSoundRow>
> {
  takeId: string;
  songId: string;
  type: string;
  file: string;
  bytes: number;
}

/** A row of the log; its time in milliseconds since 1970. */
export interface EntryRow
  extends Model<InferAttributes<EntryRow>, InferCreationAttributes<EntryRow>>, EntryColumns {}
export interface EntryColumns extends Omit<Entry, 'madeAt' | 'place'> {
  madeAt: number;
  placeFrom: number | null;
  placeTo: number | null;
}

/** An instrument of the player's own, as JSON. */
export interface InstrumentRow extends Model<
  InferAttributes<InstrumentRow>,
  InferCreationAttributes<InstrumentRow>
> {
  id: string;
  name: string;
  instrument: string;
}

export interface Models {
  instruments: ModelStatic<InstrumentRow>;
  entries: ModelStatic<EntryRow>;
  takes: ModelStatic<TakeRow>;
  takeSounds: ModelStatic<TakeSoundRow>;
  recordings: ModelStatic<RecordingRow>;
  changeTimes: ModelStatic<ChangeTimeRow>;
  songs: ModelStatic<SongRow>;
  patterns: ModelStatic<PatternRow>;
}

export function defineModels(sequelize: Sequelize): Models {
  const stored = () => ({
    id: { type: DataTypes.UUID, primaryKey: true },
    revision: { type: DataTypes.INTEGER, allowNull: false },
    meter: { type: DataTypes.STRING, allowNull: false },
    document: { type: DataTypes.TEXT, allowNull: false },
    createdAt: DataTypes.DATE,
    updatedAt: DataTypes.DATE,
  });
  // Each column has an object of its own: Sequelize writes the column's name into it.
  const text = () => ({ type: DataTypes.STRING, allowNull: true });
  const whole = () => ({ type: DataTypes.INTEGER, allowNull: true });
  const number = () => ({ type: DataTypes.FLOAT, allowNull: true });
  return {
    instruments: sequelize.define<InstrumentRow>(
      'instrument',
      {
        id: { type: DataTypes.UUID, primaryKey: true },
        name: { ...text(), allowNull: false },
        instrument: { type: DataTypes.TEXT, allowNull: false },
      },
      { tableName: 'instruments', timestamps: false },
    ),
    entries: sequelize.define<EntryRow>(
      'entry',
      {
        id: { type: DataTypes.UUID, primaryKey: true },
        madeAt: { ...whole(), allowNull: false },
        kind: { ...text(), allowNull: false },
        songId: { type: DataTypes.UUID, allowNull: true },
        song: text(),
        instrument: text(),
        rung: text(),
        hands: text(),
        from: whole(),
        to: whole(),
        whole: { type: DataTypes.BOOLEAN, allowNull: false },
        tempo: number(),
        seconds: { ...number(), allowNull: false },
        source: text(),
        trouble: text(),
        within: number(),
        median: number(),
        spread: number(),
        change: text(),
        placeFrom: whole(),
        placeTo: whole(),
        text: { type: DataTypes.TEXT, allowNull: true },
      },
      { tableName: 'entries', timestamps: false },
    ),
    changeTimes: sequelize.define<ChangeTimeRow>(
      'changeTime',
      {
        id: { type: DataTypes.UUID, primaryKey: true },
        madeAt: { type: DataTypes.DATE, allowNull: false },
        strings: { type: DataTypes.STRING, allowNull: false },
        timing: { type: DataTypes.TEXT, allowNull: false },
      },
      { tableName: 'change_times', timestamps: false },
    ),
    recordings: sequelize.define<RecordingRow>(
      'recording',
      {
        songId: { type: DataTypes.UUID, primaryKey: true, field: 'song_id' },
        name: { type: DataTypes.STRING, allowNull: false },
        type: { type: DataTypes.STRING, allowNull: false },
        file: { type: DataTypes.STRING, allowNull: false },
        bytes: { type: DataTypes.INTEGER, allowNull: false },
        madeAt: { type: DataTypes.DATE, allowNull: false, field: 'made_at' },
        map: { type: DataTypes.TEXT, allowNull: false },
      },
      { tableName: 'recordings', timestamps: false },
    ),
    takes: sequelize.define<TakeRow>(
      'take',
      {
        id: { type: DataTypes.UUID, primaryKey: true },
        songId: { type: DataTypes.UUID, allowNull: false },
        madeAt: { type: DataTypes.DATE, allowNull: false },
        tempo: { type: DataTypes.FLOAT, allowNull: false },
        from: { type: DataTypes.INTEGER, allowNull: false },
        to: { type: DataTypes.INTEGER, allowNull: false },
        source: { type: DataTypes.STRING, allowNull: false },
        trouble: { type: DataTypes.STRING, allowNull: false },
        sentence: { type: DataTypes.TEXT, allowNull: false },
        rung: text(),
        hands: text(),
        answer: { type: DataTypes.TEXT, allowNull: true },
        judgement: { type: DataTypes.TEXT, allowNull: false },
      },
      { tableName: 'takes', timestamps: false },
    ),
    takeSounds: sequelize.define<TakeSoundRow>(
      'takeSound',
      {
        takeId: { type: DataTypes.UUID, primaryKey: true, field: 'take_id' },
        songId: { type: DataTypes.UUID, allowNull: false, field: 'song_id' },
        type: { type: DataTypes.STRING, allowNull: false },
        file: { type: DataTypes.STRING, allowNull: false },
        bytes: { type: DataTypes.INTEGER, allowNull: false },
      },
      { tableName: 'take_sounds', timestamps: false },
    ),
    songs: sequelize.define<SongRow>(
      'song',
      {
        ...stored(),
        title: { type: DataTypes.STRING, allowNull: false },
        instrument: { type: DataTypes.STRING, allowNull: false },
        tempo: { type: DataTypes.FLOAT, allowNull: false },
        glance: { type: DataTypes.TEXT, allowNull: true },
      },
      { tableName: 'songs' },
    ),
    patterns: sequelize.define<PatternRow>(
      'pattern',
      { ...stored(), name: { type: DataTypes.STRING, allowNull: false } },
      { tableName: 'patterns' },
    ),
  };
}
