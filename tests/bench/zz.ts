import { planWiring } from '#core/circuit/wiring';
import { scan } from '#core/harness/scan';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../demo-sheets';
  const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
  const { harness } = planWiring(order, sheets, DEFAULT_SETTINGS);
for (let i=0;i<5;i++){  const t = performance.now();
  const all = scan(harness); console.log(all.states, all.rounds/all.states, ((performance.now()-t)/1000).toFixed(3), harness.elements.length, harness.nodes.length); }
