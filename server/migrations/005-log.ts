import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** A time as takes and timings keep it, as milliseconds since 1970. */
const milliseconds = (column: string) =>
  `CAST(ROUND((julianday(${column}) - 2440587.5) * 86400000) AS INTEGER)`;

/**
 * The log: one row for each take, timed change, wrist test, note, and practice away from the screen. Takes and
 * timings that are there already get their rows.
 */
export const log: RunnableMigration<QueryInterface> = {
  name: '005-log',
  async up({ context }) {
    await context.addColumn('takes', 'rung', { type: DataTypes.STRING });
    await context.addColumn('takes', 'hands', { type: DataTypes.STRING });
    await context.createTable('entries', {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      madeAt: { type: DataTypes.INTEGER, allowNull: false },
      kind: { type: DataTypes.STRING, allowNull: false },
      songId: { type: DataTypes.UUID },
      song: { type: DataTypes.STRING },
      instrument: { type: DataTypes.STRING },
      rung: { type: DataTypes.STRING },
      hands: { type: DataTypes.STRING },
      from: { type: DataTypes.INTEGER },
      to: { type: DataTypes.INTEGER },
      whole: { type: DataTypes.BOOLEAN, allowNull: false },
      tempo: { type: DataTypes.FLOAT },
      seconds: { type: DataTypes.FLOAT, allowNull: false },
      source: { type: DataTypes.STRING },
      trouble: { type: DataTypes.STRING },
      within: { type: DataTypes.FLOAT },
      median: { type: DataTypes.FLOAT },
      spread: { type: DataTypes.FLOAT },
      change: { type: DataTypes.STRING },
      placeFrom: { type: DataTypes.INTEGER },
      placeTo: { type: DataTypes.INTEGER },
      text: { type: DataTypes.TEXT },
    });
    const { sequelize } = context;
    await sequelize.query(
      `
      INSERT INTO entries (id, madeAt, kind, songId, song, instrument, rung, hands, "from", "to", whole, tempo, seconds, source, trouble)
      SELECT takes.id, ${milliseconds('takes.madeAt')}, 'take', takes.songId, songs.title, songs.instrument, 'song', 'both',
        takes."from", takes."to", takes."from" = 1, takes.tempo, 0, takes.source, takes.trouble
      FROM takes JOIN songs ON songs.id = takes.songId`,
    );
    await sequelize.query(`
      INSERT INTO entries (id, madeAt, kind, instrument, whole, seconds, source, change)
      SELECT id, ${milliseconds('madeAt')}, 'change', json_extract(timing, '$.instrument'), 0, 0,
        json_extract(timing, '$.source'), json_extract(timing, '$.from') || ' to ' || json_extract(timing, '$.to')
      FROM change_times`);
    // What pages, charts and the plan ask for, each answered from an index alone or from one song's rows.
    await context.addIndex('entries', ['madeAt', 'id']);
    await context.addIndex('entries', ['kind', 'madeAt']);
    await context.addIndex('entries', ['trouble', 'madeAt']);
    await context.addIndex('entries', ['madeAt', 'seconds', 'kind']);
    await context.addIndex('entries', ['songId', 'madeAt', 'seconds']);
    await sequelize.query(`
      CREATE INDEX entries_clean ON entries (songId, rung, madeAt, tempo)
      WHERE trouble = 'clean' AND kind = 'take' AND whole = 1 AND hands = 'both' AND songId IS NOT NULL`);
    await sequelize.query(`
      CREATE INDEX entries_waiting ON entries (songId, change, madeAt)
      WHERE kind = 'take' AND change IS NOT NULL AND songId IS NOT NULL AND trouble IN ('landings', 'chord-late')`);
    await sequelize.query(`
      CREATE INDEX entries_changes ON entries (change, madeAt, median)
      WHERE kind = 'change' AND median IS NOT NULL`);
  },
  async down({ context }) {
    await context.dropTable('entries');
    await context.removeColumn('takes', 'rung');
    await context.removeColumn('takes', 'hands');
  },
};
