import { demoThreads, charge } from './test/core.ts';
for (const doc of demoThreads()) if(doc.charging) { let best=1e9; for(let k=0;k<150;k++){const t=performance.now(); charge(doc); best=Math.min(best,performance.now()-t);} console.log(doc.name,best); const r=charge(doc); console.log(r.counts.steps,r.counts.sweeps,r.counts.pieces,r.series.count); }
