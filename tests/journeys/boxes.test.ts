import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { axe, fill, go, open, openRoom, press, sees, type Room } from './hand';

let room: Room;
beforeAll(async () => {
  room = await openRoom();
});
afterAll(() => room.close());

describe('what was fitted before, and what is no kit', () => {
  it('a winch that was there is told with its wires; a lit switch finds them and its old one comes off', async () => {
    const page = await room.person('tor');
    const id = await open(room, page, 'Drover 2', 'arrive');
    await fill(page, '#fitted-name', 'winch');
    await fill(page, '#fitted-watts', '0 W');
    for (const [i, [what, colour]] of [
      ['winch-feed', 'RD'],
      ['winch-in', 'GN'],
      ['winch-out', 'mauve'],
    ].entries()) {
      await press(page, 'A wire of it that a kit is joined to', 'main');
      await page.select(`[aria-label="Wire ${i + 1} does"]`, what!);
      await fill(page, `[aria-label="Colour of wire ${i + 1}"]`, colour!);
      await page.select(`[aria-label="Place of wire ${i + 1}"]`, 'dash');
    }
    await press(page, 'Add', 'main');
    await sees(page, 'the winch-out wire: its colour, such as RD or GN/WH');
    await fill(page, '[aria-label="Colour of wire 3"]', 'bk');
    await press(page, 'Add', 'main');
    await sees(page, 'winch-feed RD, winch-in GN, winch-out BK');
    expect(await axe(page)).toEqual([]);
    await go(page, `/orders/${id}/fit`);
    await press(page, 'Add Lit winch switch', 'main');
    await sees(page, '2 · Lit winch switch');
    await go(page, `/orders/${id}/wire?show=circuits`);
    await sees(page, '2 circuits fed, sized and fused');
    await go(page, `/orders/${id}/bench?step=take%2Flit-winch-switch%2Fold-winch-switch-dash`);
    await sees(page, 'Old winch switch off');
    await sees(page, 'Bagged for the owner');
  });
  it('a job says what it lacks, is planned with the kits, and can be taken back', async () => {
    const page = await room.person('tor');
    const id = await open(room, page, 'Tern 300', 'fit');
    await press(page, 'Add a job', 'main');
    await fill(page, '#job-title', 'Mend the tail lamp’s lead');
    await fill(page, '#job-minutes', 'soon');
    await press(page, 'Add', 'main section:has(#job-title)');
    await sees(page, 'minutes, from 1 to 600');
    await sees(page, 'say where');
    await page.select('#job-place', 'seat');
    await fill(page, '#job-minutes', '20');
    await press(page, 'Add', 'main section:has(#job-title)');
    await sees(page, 'under the rear seat, 20 min, battery off');
    await go(page, `/orders/${id}/plan`);
    await sees(page, 'Mend the tail lamp’s lead: proved');
    await go(page, `/orders/${id}/fit`);
    await press(page, 'Undo', 'header');
    await page.waitForFunction(() => !document.querySelector('main')!.innerText.includes('20 min, battery off'), { polling: 100 });
  });
});
