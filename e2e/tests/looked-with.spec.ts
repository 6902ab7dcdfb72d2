import { expect, test } from './studio.ts';

test('a state that follows a variable is written as a line, and looked at by setting the variable in the strip', async ({ studio, page }) => {
  await studio.given({
    variables: {
      Seats: { type: 'number', initial: 4, min: 0, max: 9 },
      Day: { type: 'choice', initial: 'Friday', options: ['Friday', 'Sunday'] },
      Unread: { type: 'text', initial: '' },
    },
    frames: {
      Boat: {
        states: { Free: {}, Full: { Words: { text: 'No seat is left' } } },
        layers: {
          Words: { type: 'text', text: '{Seats} seats', at: [20, 20, 200, 40] },
          Note: { type: 'text', text: 'Sunday boats are slow', at: [20, 80, 200, 40], when: { shown: 'Day = "Sunday"' } },
        },
      },
    },
  });
  const line = page.getByRole('group', { name: 'Threads of the frame itself' }).getByRole('combobox', { name: 'Thread line' });
  await line.fill('state is if Seats = 0 then "Full" else "Free"');
  await line.press('Enter');
  const follows = page.getByRole('group', { name: 'Binding: state is' });
  await expect(follows.getByRole('combobox')).toHaveValue('if Seats = 0 then "Full" else "Free"');

  const strip = page.getByRole('region', { name: 'Strip' });
  await strip.getByRole('tab', { name: 'States' }).click();
  const looked = strip.getByRole('group', { name: 'Looked at with' });
  await expect(looked).not.toContainText('Unread');
  const open = (name: string) => strip.getByRole('button', { name: `Open the state ${name}` });
  await expect(open('Free')).toHaveAttribute('aria-pressed', 'true');
  const words = studio.sheet.locator('.zany-screen').first();
  await expect(words).toContainText('4 seats');
  await looked.getByLabel('Look with Seats').fill('0');
  await looked.getByLabel('Look with Seats').press('Enter');
  await expect(open('Full')).toHaveAttribute('aria-pressed', 'true');
  await expect(words).toContainText('No seat is left');
  // Another state can be opened all the same, with what is looked at.
  await open('Free').click();
  await expect(words).toContainText('0 seats');
  await expect(words).not.toContainText('Sunday boats');
  await looked.getByRole('button', { name: 'Look with Day' }).click();
  await page.getByRole('dialog', { name: 'Look with Day' }).getByText('Sunday', { exact: true }).click();
  await expect(words).toContainText('Sunday boats');
  await looked.getByRole('button', { name: 'as it begins' }).click();
  await expect(words).toContainText('4 seats');
  await expect(words).not.toContainText('Sunday boats');

  // Only looked at: the piece begins as before. What was written is one step back.
  await page.getByRole('tab', { name: /^Variables/ }).click();
  await expect(page.getByLabel('Seats begins as')).toHaveValue('4');
  await follows.getByRole('button', { name: 'Remove: state is' }).click();
  await expect(follows).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(follows).toHaveCount(1);
  await studio.saved();
});
