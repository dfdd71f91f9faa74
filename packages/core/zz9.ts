import { demoThreads } from './test/core.ts';
import { compileCharging } from './src/plant/compile.ts';
const doc = demoThreads().find(d=>d.name.startsWith('Tide'))!;
const plant = compileCharging(doc);
const c=doc.charging!.control!;
plant.charger!.set('fast',{on:true,amps:c.current},{tapered:c.terminate}); plant.path.fedAnew();
const f=plant.charger!.beside(plant.path.network,1);
const row=new Float64Array(f.columns);
const lo=12.419945024722024, hi=12.4199999997516;
let p=NaN,pd=NaN;
for(let k=0;k<=12;k++){const v=lo+(hi-lo)*k/12; f.sample(v,row); const own=[...row.slice(f.columns-24)]; console.log(k,row[0]!,'d',row[0]!-p,'d2',row[0]!-p-pd,[...f.signature].join(' '), own.slice(0,13).map(x=>x.toPrecision(12)).join(' ')); pd=row[0]!-p; p=row[0]!;}
console.log(plant.charger!.law.kneeOf({on:true,amps:c.current}));
