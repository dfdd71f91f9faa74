/**
 * States of charge at which published curves are tabulated: every 1/200, and closer towards empty, where
 * OCV and resistance bend within a per cent of charge.
 */
export function socKnots(): number[] {
  const low = [0, 0.0005, 0.001, 0.0015, 0.002, 0.003, 0.004, 0.005, 0.006, 0.007, 0.008, 0.009];
  const knots = [...low];
  for (let k = 10; k < 60; k += 2) knots.push(k / 1000);
  for (let k = 6; k <= 10; k += 0.5) knots.push(k / 100);
  for (let k = 11; k <= 100; k++) knots.push(k / 100);
  return knots;
}
