import { demoThreads, decodeThread, charge, chargeFindings } from './test/core.ts';
for (const doc of demoThreads()) {
  const d = decodeThread(doc); if (!d.ok) { console.log(doc.name, d.issues); continue; }
  if (!doc.charging) continue;
  for (let k=0;k<3;k++) charge(doc);
  const t=performance.now(); const r = charge(doc); console.log(doc.name, (performance.now()-t).toFixed(1),'ms', r.end, r.to80!/3600, r.ledger.closure, r.fastest, r.hottest, r.phases.slice(0,8).map(p=>p.limit+' '+(p.to/3600).toFixed(2)).join(', '),r.counts.pieces,r.counts.steps);
  for (const f of chargeFindings(doc, r)) console.log('  ',f.severity, f.title,'|',f.reason,'|',f.action?.label);
  for (const s of doc.charging.tries ?? []) { const q=charge(doc,s); console.log('   try',s.name,q.end.reason,q.end.keeps,(q.end.time/3600).toFixed(2),q.end.soc.toFixed(3),q.to80&&(q.to80/3600).toFixed(2),q.hottest?.celsius, q.phases.map(p=>p.limit).join()); for (const f of chargeFindings({...doc,charging:{...doc.charging,source:s}}, q).slice(0,3)) console.log('       ',f.severity, f.title);}
}
