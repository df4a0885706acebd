import { Network } from '#core/network/solve';
import type { Element } from '#core/network/element';
import { treeHarness } from './wiring';
const elements = treeHarness(60);
const net = new Network(elements, '0');
const bat = net.element('bat') as Extract<Element, { kind: 'V' }>;
net.solve();
for (let rep=0;rep<4;rep++){ const points=22000; let rounds=0; const hist:Record<number,number>={}; const t=performance.now();
for (let i=0;i<points;i++){ bat.volts=11+(3*i)/(points-1); const r=net.resolve(); rounds+=r; hist[r]=(hist[r]??0)+1; net.voltsAt('n59'); }
console.log(points/((performance.now()-t)/1000)|0,'per s', rounds/points, JSON.stringify(hist)); }
