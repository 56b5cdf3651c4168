import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** What a song is known by on the shelf, beside its document; looked at again where it is empty. */
export const glance: RunnableMigration<QueryInterface> = {
  name: '008-glance',
  async up({ context }) {
    await context.addColumn('songs', 'glance', { type: DataTypes.TEXT, allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('songs', 'glance');
  },
};
