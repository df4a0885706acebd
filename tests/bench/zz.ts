import { Memo } from '#core/memo';
import { assess } from '#core/order/assess';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoOrder } from '../demo-sheets';
const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
const memo = new Memo();
for (const key of ['watts:bench/x','unit:gvwr-kg','lamp:road-general/horn-heard','battery:age-years']) { const ts:number[]=[];
for (let i=0;i<60;i++){ const o=after(order,{type:'fact.told',key,value:1+i/10,label:'x'}); const t=performance.now(); assess(o,sheets,DEFAULT_SETTINGS,memo); ts.push(performance.now()-t);} 
const s=ts.slice(10).sort((a,b)=>a-b); console.log(key, s[25]!.toFixed(1), s[47]!.toFixed(1)); }
