/** How fast the Bench shows what there is to choose from, and what it compares: part of `npm run bench:ui`. */

const median = list => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];
const ms = v => `${v.toFixed(0)} ms`;

/** Runs in the page: from a deed until a condition holds, milliseconds. Both are expressions. */
const timed = (page, deed, holds) =>
  page.evaluate(`(async () => {
    window.before = document.querySelector('canvas[data-picture]').dataset.shown;
    const from = performance.now();
    ${deed};
    while (!(${holds})) await new Promise(next => setTimeout(next, 2));
    return performance.now() - from;
  })()`);

const drawn =
  "[...document.querySelectorAll('canvas[data-picture],canvas[data-beside]')].every(c => c.dataset.shown && c.dataset.shown === c.dataset.wanted && c.dataset.fine === 'true')";

/** @param frame the time of an empty animation frame, milliseconds */
export async function measureChoosing(page, open, photograph, frame) {
  const address = `/photographs/${photograph.id}`;
  const says = (what, list, most) =>
    console.log(
      `${what}: first ${ms(list[0])}, median ${ms(median(list))} of ${list.length}, ${(median(list) / frame).toFixed(1)} empty frames${most ? ` (wanted: ${most})` : ''}`,
    );
  const rest = (time = 700) => page.waitForTimeout(time);
  await open(address);
  await rest(2500);

  const boards = [];
  for (const stage of ['tone', 'colour', 'tone', 'finish', 'tone']) {
    boards.push(
      await timed(
        page,
        `document.querySelector('[data-add="${stage}"]').click()`,
        "(c => c.length > 20 && c.every(x => 'drawn' in x.dataset))([...document.querySelectorAll('aside [data-card] canvas')])",
      ),
    );
    if (boards.length < 5) {
      await page.keyboard.press('Escape');
      await rest();
    }
  }
  says('board of steps, all of them', boards, '500 ms');

  const hovers = [];
  for (const name of ['Sepia', 'Selenium', 'Copper', 'Iron blue', 'Split, cold', 'Firm', 'Gold', 'Nickel']) {
    hovers.push(
      await timed(
        page,
        `document.querySelector('[data-card="${name}"]').focus()`,
        "document.querySelector('canvas[data-picture]').dataset.shown !== window.before",
      ),
    );
    await rest();
  }
  says('hover preview of a step', hovers, '100 ms');
  await page.keyboard.press('Escape');
  await rest();

  const strips = [];
  await page.locator('[data-tray]').nth(4).click();
  await rest();
  for (const name of ['Shadows saturation', 'Highlights saturation', 'Shadows hue', 'Balance', 'Crossover']) {
    await page.getByRole('slider', { name, exact: true }).focus();
    strips.push(
      await timed(
        page,
        "document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key: 't', bubbles: true }))",
        "document.querySelector('[data-test-strip=done]')",
      ),
    );
    await page.keyboard.press('Escape');
    await rest();
  }
  says('test strip of seven', strips, '400 ms');

  // Side by side beside one picture as large: the time until all is fine after a change of every pixel.
  const change = async value => {
    const box = page.getByRole('textbox', { name: 'Balance, number', exact: true });
    await box.fill(String(value));
    return timed(
      page,
      "document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true })); document.activeElement.blur()",
      `document.querySelector('canvas[data-picture]').dataset.shown !== window.before && ${drawn}`,
    );
  };
  const [one, two] = [[], []];
  for (let i = 0; i < 5; i++) {
    one.push(await change(10 + 7 * i));
    await rest();
  }
  await page.keyboard.press('s');
  await timed(page, 'undefined', `document.querySelector('canvas[data-beside]') && ${drawn}`);
  await rest();
  for (let i = 0; i < 5; i++) {
    two.push(await change(-10 - 7 * i));
    await rest();
  }
  console.log(
    `a change of all of one picture: median ${ms(median(one))}; of one of two side by side: ${ms(median(two))}, ${(median(two) / median(one)).toFixed(2)} times (wanted: at most twice)`,
  );
  await page.keyboard.press('s');

  // Five hundred states back and forth, and what the page holds of memory before and after.
  const tools = await page.context().newCDPSession(page);
  const heap = async () => {
    await tools.send('HeapProfiler.collectGarbage');
    return (await tools.send('Runtime.getHeapUsage')).usedSize / 1e6;
  };
  await page.getByRole('slider', { name: 'Balance', exact: true }).focus();
  const states = 250;
  for (let i = 0; i < states; i++) {
    const name = i % 2 ? 'Balance, number' : 'Crossover, number';
    const box = page.getByRole('textbox', { name, exact: true });
    await box.fill(String((i % 90) - (i % 2 ? 45 : 0)));
    await box.press('Enter');
  }
  await rest(2000);
  const round = async () => {
    const from = performance.now();
    for (const key of ['Control+z', 'Control+Shift+z']) {
      for (let i = 0; i < states; i++) await page.keyboard.press(key);
    }
    return (performance.now() - from) / (2 * states);
  };
  await round();
  await rest(4000);
  const before = await heap();
  const each = await round();
  await rest(4000);
  console.log(
    `${2 * states} steps of undo and redo: ${each.toFixed(1)} ms each; the page holds ${before.toFixed(1)} MB before and ${(await heap()).toFixed(1)} MB after`,
  );
}
