import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** What is known of the file itself: the version of the app that wrote to it last. */
export const about: RunnableMigration<QueryInterface> = {
  name: '002-about',
  async up({ context }) {
    await context.createTable('about', {
      name: { type: DataTypes.STRING, primaryKey: true, allowNull: false },
      value: { type: DataTypes.TEXT, allowNull: false },
    });
  },
  async down({ context }) {
    await context.dropTable('about');
  },
};
