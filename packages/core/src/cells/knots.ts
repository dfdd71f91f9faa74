/**
 * States of charge at which published curves are tabulated: every per cent, and closer towards empty, where
 * OCV and resistance bend within a per cent of charge.
 */
export function socKnots(): number[] {
  const low = [0, 0.0005, 0.001, 0.0015, 0.002, 0.003, 0.004, 0.005, 0.006, 0.007, 0.008, 0.009];
  const knots = [...low];
  for (let k = 10; k < 100; k += 2) knots.push(k / 1000);
  for (let k = 20; k < 40; k++) knots.push(k / 200);
  for (let k = 20; k <= 100; k++) knots.push(k / 100);
  return knots;
}
