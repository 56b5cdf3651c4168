import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

const stored = {
  id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
  revision: { type: DataTypes.INTEGER, allowNull: false },
  meter: { type: DataTypes.STRING, allowNull: false },
  document: { type: DataTypes.TEXT, allowNull: false },
  createdAt: { type: DataTypes.DATE, allowNull: false },
  updatedAt: { type: DataTypes.DATE, allowNull: false },
};

export const songsAndPatterns: RunnableMigration<QueryInterface> = {
  name: '001-songs-and-patterns',
  async up({ context }) {
    await context.createTable('songs', {
      ...stored,
      title: { type: DataTypes.STRING, allowNull: false },
      instrument: { type: DataTypes.STRING, allowNull: false },
      tempo: { type: DataTypes.FLOAT, allowNull: false },
    });
    await context.addIndex('songs', ['title']);
    await context.createTable('patterns', {
      ...stored,
      name: { type: DataTypes.STRING, allowNull: false },
    });
    await context.addIndex('patterns', ['name']);
  },
  async down({ context }) {
    await context.dropTable('patterns');
    await context.dropTable('songs');
  },
};
