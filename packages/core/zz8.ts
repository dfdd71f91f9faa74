import { demoThreads, charge } from './test/core.ts';
import { ChargerLaw } from './src/charging/law.ts';
import { PieceMaker } from './src/plant/maker.ts';
import { Path } from './src/plant/path.ts';
const L=ChargerLaw.prototype as any; const s0=L.solve, sl=L.slack, ia=L.inputAt; let n=0,m=0,q=0;
L.solve=function(...a:any[]){n++;return s0.apply(this,a)}; L.slack=function(...a:any[]){m++;return sl.apply(this,a)}; L.inputAt=function(...a:any[]){q++;return ia.apply(this,a)};
const P=PieceMaker.prototype as any; const mk=P.make; P.make=function(...a:any[]){const b=n; const r=mk.apply(this,a); console.log('make',a[0], n-b, r?[r.lo,r.hi,r.grid.points]:'none'); return r;};
const dm=(Path.prototype as any).demand; let dd=0; (Path.prototype as any).demand=function(v:number){dd++; return dm.call(this,v)};
for (const doc of demoThreads()) if(doc.charging&&doc.name.startsWith('Tide')) { n=m=q=0; charge(doc); console.log(doc.name,n,m,q,dd); }
