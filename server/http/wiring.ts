import { paperType, type PaperName } from '../work/papers';
import { sendPaper } from './paper';
import { route } from './route';

const file = (paper: PaperName, summary: string) =>
  route({
    method: 'get',
    path: `/api/orders/:id/wiring/${paper}`,
    summary,
    produces: paperType(paper),
    handle: (call, s) => sendPaper(call, s, { paper }),
  });

export const wiringRoutes = [
  file('schematic.svg', 'The schematic of the added wiring as scalable graphics'),
  file('schematic.pdf', 'The schematic on paper'),
  file('cut-list.pdf', 'Cut list, splice sheet and leads to cap on paper'),
  file('labels.pdf', 'Labels of wires and fuses'),
  file('cut-list.csv', 'Every piece of wire to cut, one a row'),
  file('splices.csv', 'The splice sheet, one joint a row'),
  file('harness.json', 'The whole harness as data that can be read back'),
];
