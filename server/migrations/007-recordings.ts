import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** Recordings beside songs: the sound is a file in the data folder, what is known of it is here. */
export const recordings: RunnableMigration<QueryInterface> = {
  name: '007-recordings',
  async up({ context }) {
    await context.createTable('recordings', {
      song_id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      name: { type: DataTypes.STRING, allowNull: false },
      type: { type: DataTypes.STRING, allowNull: false },
      file: { type: DataTypes.STRING, allowNull: false },
      bytes: { type: DataTypes.INTEGER, allowNull: false },
      made_at: { type: DataTypes.DATE, allowNull: false },
      map: { type: DataTypes.TEXT, allowNull: false },
    });
  },
  async down({ context }) {
    await context.dropTable('recordings');
  },
};
