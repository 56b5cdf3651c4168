import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** What is answered to a take that was sent. */
export const takeAnswers: RunnableMigration<QueryInterface> = {
  name: '010-take-answers',
  async up({ context }) {
    await context.addColumn('takes', 'answer', { type: DataTypes.TEXT, allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('takes', 'answer');
  },
};
