import { expect, goTo, look, openSong, test } from './app';

/**
 * What a screen reader finds on three stations, as a tree of roles and names. The trees stand in files beside this one
 * and are read by a person: a change of them is looked at, and taken with `--update-snapshots`.
 */
test('Strum, Song and Practice as a screen reader has them', async ({ page, app }) => {
  await openSong(page, app, 'Mooring Pins');
  const tree = (name: string) =>
    expect(page.locator('main')).toMatchAriaSnapshot({ name: `${name}.aria.yml` });

  await look(page, 'Bar');
  await tree('song');

  await goTo(page, 'Strum');
  await look(page, 'Stroke');
  await page.getByRole('listbox').first().focus();
  await page.keyboard.press('Home');
  await tree('strum');

  await goTo(page, 'Practice');
  await look(page, 'Ladder');
  await page
    .getByRole('region', { name: 'Ladder' })
    .getByRole('button', { name: 'In full' })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeVisible();
  await tree('practice');
  await expect(page.getByRole('contentinfo', { name: 'Stage bar' })).toMatchAriaSnapshot(`
    - contentinfo "Stage bar":
      - button "Record a take"
  `);
});
