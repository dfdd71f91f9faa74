import { demoThreads, findings } from './src/index.ts';
import { simulate } from './test/core.ts';
const docs = demoThreads();
for (let r=0;r<6;r++) for (const doc of docs){ 
  let t=performance.now(); const run=simulate(doc,{rows:400}); const a=performance.now()-t; t=performance.now(); const f=findings(doc,run); const b=performance.now()-t;
  if(r==0||r==5) console.log(r,doc.name.slice(0,24).padEnd(24),a.toFixed(1),b.toFixed(1), f.map((x:any)=>x.kind).join(','));
}
