import { CELL_LIBRARY, defaultBoost } from './test/core.ts';
import { quasiStatic, thread } from './test/build.ts';
import { charge } from './src/solver/charge.ts';
import { ChargeReading } from './src/solver/chargeReading.ts';
const cell = CELL_LIBRARY['21700-published']!;
const doc = thread({ cell: quasiStatic(cell), pack: {series: 5}, loads: [] });
doc.charging = {
  source: { name: 's', kind: 'supply', volts: 9, droop: 0, limit: 3, beyond: 'hard', grade: 'assumed' },
  stage: { ...defaultBoost('charger', 'source', 21), minInput:0, maxInput:1000,inputLimit:1000,maxDuty:0.99,passResistance:0,rectifierVolts:0, loss:{basis:'efficiency',efficiency:0.9,quiescentCurrent:0}},
  control: { current: 2.5, sense: 'output', terminate: 0.25 },
  meanwhile: 'off', from: 0.05,
};
const r = charge(doc);
console.log(r.phases, r.ledger, r.counts);
const rows = new ChargeReading(r.series);
for (let k=0;k<rows.count;k+=10) console.log(rows.at(k,'time'),rows.at(k,'packVolts'),rows.of(k,'outAmps'),rows.of(k,'inAmps'),rows.of(k,'supplied'),rows.of(k,'limit'));
