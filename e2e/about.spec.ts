import { expect, test } from './app';

test('About says the version, where the data lie, and whose work is in the app', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await page.getByRole('link', { name: 'About' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^\s*Plucky Wrist \d+\.\d+\.\d+\s*$/,
  );
  await expect(page.getByText(app.folder)).toBeVisible();
  const licences = page.getByRole('list', { name: 'Licences' });
  const font = licences.getByRole('listitem').filter({ hasText: 'bricolage-grotesque' });
  await expect(font).toContainText('OFL-1.1');
  await font.getByText('OFL-1.1').click();
  await expect(font.getByText(/SIL OPEN FONT LICENSE Version 1\.1/i).first()).toBeVisible();
  // Workers are built by themselves, and are in the list too.
  await expect(licences.getByText('pdf-lib', { exact: true })).toBeVisible();
  expect((await page.request.get(`${app.url}/licences.txt`)).ok()).toBe(true);
});
