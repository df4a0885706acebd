// A shop as busy as the targets of speed have it: more units like those of the demo are taken in, more people work at more bays.
import { Hand } from './client.mjs';

/** Answers what was asked, or ends with what was wrong. */
async function asked(hand, ...call) {
  const r = await hand.call(...call);
  if (r.status >= 300 || !r.status) throw new Error(`${call[0]} ${call[1]}: ${r.status} ${r.text.slice(0, 300)}`);
  return r.json;
}

/**
 * Brings a demo to so many open orders, people at work and bays; promises lie on the days from tomorrow on.
 * @param {string} base
 * @param {{ orders: number, people: number, bays: number }} how many
 */
export async function fillFloor(base, { orders, people, bays }) {
  const lead = await new Hand(base).signIn('ines');
  const owner = await new Hand(base).signIn('oda');
  const { orders: here } = await asked(lead, 'GET', '/api/floor');
  for (let i = here.length; i < orders; i++) {
    const like = here[i % here.length];
    const { order } = await asked(lead, 'GET', `/api/orders/${like.id}`);
    const { model, build, year } = order.unit;
    const { id } = await asked(lead, 'POST', '/api/orders', {
      model,
      build,
      year,
      identity: `BUSYFLOOR${String(i).padStart(8, '0')}`,
      meterValue: null,
      owner: `Owner ${i}`,
      promisedAt: new Date(Date.now() + (1 + (i % 7)) * 86_400_000).toISOString(),
      wishes: [],
      restVolts: 12.7,
      condition: '',
      fitted: [],
    });
    for (const [n, { kit }] of order.kits.entries()) {
      const body = { type: 'kit.added', kit: kit.id };
      await asked(lead, 'POST', `/api/orders/${id}/events`, body, { 'If-Match': `"${1 + n}"`, 'Idempotency-Key': `busy-${id}-${n}` });
    }
  }
  const { settings, versions } = await asked(lead, 'GET', '/api/settings');
  const roster = [...settings.roster];
  for (let i = roster.length; i < people; i++) {
    const id = `busy-${i}`;
    await asked(owner, 'POST', '/api/people', { id, name: `Busy ${i}`, role: 'installer', password: 'long enough' });
    roster.push({ ...roster[1], person: id, off: [] });
  }
  const more = Array.from({ length: Math.max(0, bays - settings.bays.length) }, (_, i) => {
    const { kinds } = settings.bays[i % settings.bays.length];
    return { id: `busy-${i}`, name: `Further bay ${i + 1}`, kinds };
  });
  await asked(lead, 'PATCH', '/api/settings', {
    changes: [
      { field: 'roster', value: roster, version: versions.roster ?? 0 },
      { field: 'bays', value: [...settings.bays, ...more], version: versions.bays ?? 0 },
    ],
  });
}
