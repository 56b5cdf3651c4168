import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** What a song is known by on the shelf, beside its document; looked at again where it is empty. */
export const glance: RunnableMigration<QueryInterface> = {
  name: '008-glance',
  async up({ context }) {
    await context.addColumn('songs', 'glance', { type: DataTypes.TEXT, allowNull: true });
    // The quickest clean take of each song, found without reading the others.
    await context.sequelize.query(`
      CREATE INDEX entries_best ON entries (songId, rung, tempo)
      WHERE trouble = 'clean' AND kind = 'take' AND whole = 1 AND hands = 'both' AND songId IS NOT NULL`);
  },
  async down({ context }) {
    await context.removeColumn('songs', 'glance');
    await context.removeIndex('entries', 'entries_best');
  },
};
