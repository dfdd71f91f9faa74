/*
 * What one run-down costs at least: the arithmetic of one design written out by hand in C. Three cells in series, two
 * RC branches, a measured buck-boost stage, a buck stage and a linear stage behind it, stated losses; 2,000 equal shares
 * of charge, mean and end of every step solved, 28 numbers kept of each, losses summed by element and mechanism.
 * No other design, no events, no limits but the ones this one meets.
 *
 *   cc -O3 -march=native yardstick.c -lm -o yardstick ; ./yardstick RUNS < cells.txt
 * Input: how many knots, then seven rows of so many: state of charge, OCV, R0, ohms of both branches, their farads; charge of a
 * cell, ohms in series, current of the protection. Prints best and median milliseconds and the end, as JSON.
 */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

#define MOST 64
#define SHARES 2000
#define NUMBERS 28

typedef struct { double y, b, c, d, area; } piece;
static int knots, last;
static double soc[MOST];
static piece ocv[MOST], r0[MOST], r1[MOST], r2[MOST], c1[MOST], c2[MOST];
static double charge, series, draw;

/* Monotone cubics through the knots (Fritsch and Carlson; Fritsch and Butland's mean). */
static double edge(double h0, double h1, double d0, double d1) {
  double m = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
  if (m * d0 <= 0) return 0;
  return d0 * d1 <= 0 && fabs(m) > 3 * fabs(d0) ? 3 * d0 : m;
}
static void prepare(piece *p, const double *y) {
  double h[MOST], d[MOST], m[MOST];
  for (int k = 0; k < knots - 1; k++) { h[k] = soc[k + 1] - soc[k]; d[k] = (y[k + 1] - y[k]) / h[k]; }
  for (int k = 1; k < knots - 1; k++) {
    double a = 2 * h[k] + h[k - 1], b = h[k] + 2 * h[k - 1];
    m[k] = d[k - 1] * d[k] <= 0 ? 0 : (a + b) / (a / d[k - 1] + b / d[k]);
  }
  m[0] = edge(h[0], h[1], d[0], d[1]);
  m[knots - 1] = edge(h[knots - 2], h[knots - 3], d[knots - 2], d[knots - 3]);
  double area = 0;
  for (int k = 0; k < knots - 1; k++) {
    piece q = { y[k], m[k], (3 * d[k] - 2 * m[k] - m[k + 1]) / h[k], (m[k] + m[k + 1] - 2 * d[k]) / (h[k] * h[k]), area };
    p[k] = q;
    area += h[k] * (q.y + h[k] * (q.b / 2 + h[k] * (q.c / 3 + h[k] * q.d / 4)));
  }
}
static inline int place(double s) {
  while (last > 0 && s < soc[last]) last--;
  while (last < knots - 2 && s > soc[last + 1]) last++;
  return last;
}
static inline double at(const piece *p, double t) { return p->y + t * (p->b + t * (p->c + t * p->d)); }
static inline double area(double s) {
  if (s < 0) return s * ocv[0].y;
  const piece *p = ocv + place(s);
  double t = s - soc[last];
  return p->area + t * (p->y + t * (p->b / 2 + t * (p->c / 3 + t * p->d / 4)));
}

/* The measured stage: watts lost at three input volts and the load's amps, straight between. */
static const double volts_of[3] = { 7.5, 9, 12.6 }, amps_of[5] = { 0, .1, .3, .6, 1 };
static const double share[3][4] = { { .865, .902, .898, .876 }, { .872, .914, .912, .897 }, { .858, .919, .928, .921 } };
static double lost[3];
static void measured(double amps) {
  for (int v = 0; v < 3; v++) {
    double w[5] = { volts_of[v] * 1.8e-3 };
    for (int k = 1; k < 5; k++) w[k] = 9 * amps_of[k] / share[v][k - 1] - 9 * amps_of[k];
    int k = 1;
    while (k < 4 && amps_of[k] < amps) k++;
    lost[v] = w[k - 1] + (amps - amps_of[k - 1]) / (amps_of[k] - amps_of[k - 1]) * (w[k] - w[k - 1]);
  }
}

/* All stages at the pack's volts: amps, their slope, what each keeps. */
typedef struct { double amps, slope, own, blend, lamp, camera_amps, rail, camera_out; int modes[3]; } path;
static double watts;
static inline void ask(path *p, double v) {
  const double lamp = .55, out = 9 * lamp, logic = .08 + 75e-6;
  double loss, d;
  if (v <= volts_of[0]) loss = lost[0], d = 0;
  else if (v >= volts_of[2]) loss = lost[2], d = 0;
  else {
    int k = v <= volts_of[1] ? 0 : 1;
    d = (lost[k + 1] - lost[k]) / (volts_of[k + 1] - volts_of[k]);
    loss = lost[k] + (v - volts_of[k]) * d;
  }
  double i = (out + loss) / v, s = (d * v - out - loss) / (v * v), least = (out + .09 * lamp * lamp) / v + 1.8e-3;
  if (least > i) i = least, s = -(out + .09 * lamp * lamp) / (v * v);
  double from = .92 * 9 + .09 / .92 * lamp, to = 9 / .93 + .09 / .93 * lamp, x = (v - from) / (to - from);
  p->blend = 0;
  if (x > 0 && x < 1) {
    double up = 5 * x, down = 5 * (1 - x), b = fmin(1, fmin(up, down));
    double db = b >= 1 ? 0 : (up < down ? 5 : -5) / (to - from);
    p->blend = .015 * b * out;
    i += p->blend / v;
    s += (.015 * out * db * v - p->blend) / (v * v);
  }
  p->own = v * 1.8e-3;
  p->lamp = i;
  p->modes[0] = v <= from ? 0 : v >= to ? 1 : 2;
  double rail = 5, o = watts / 5 + logic, so = -watts / 25, sr = 0;
  p->modes[1] = 0;
  if (.6 * v - .18 * o < 5) {
    p->modes[1] = 1;
    for (int k = 0; k < 12; k++) {
      double f = .6 * v - .18 * (watts / rail + logic) - rail, next = rail - f / (.18 * watts / (rail * rail) - 1);
      double move = fabs(next - rail);
      rail = next;
      if (move < 1e-12) break;
    }
    o = watts / rail + logic;
    so = -watts / (rail * rail);
    sr = .6 / (1 + .18 * so);
  }
  double given = rail * o, ic = given / (.905 * v) + 2.2e-3, sc = -given / (.905 * v * v) + (o + rail * so) * sr / (.905 * v);
  double floor_amps = (.18 * o * o + given) / v + 2.2e-3;
  if (floor_amps > ic) ic = floor_amps, sc = -(floor_amps - 2.2e-3) / v;
  p->camera_amps = ic;
  p->rail = rail;
  p->camera_out = o;
  p->modes[2] = 0;
  p->amps = i + ic;
  p->slope = s + sc;
}

static double kept[(SHARES + 32) * NUMBERS];

/* One run. Returns the seconds until the cells are empty; `closure` what the account lacks. */
static double run(double *closure) {
  double s = 1, v1 = 0, v2 = 0, t = 0, sum[20] = { 0 }, v = 12.5, amps = 0, slope = 0, bend = 0, before = 0;
  path p;
  measured(.55);
  last = knots - 2;
  double stored = 3 * charge * area(1);
  for (int n = 0; n < 20; n++) {
    ask(&p, v);
    double e = 3 * at(ocv + last, 1 - soc[last]), r = 3 * at(r0 + last, 1 - soc[last]);
    double f = e - r * (p.amps + draw) - series * p.amps - v;
    v += f / ((r + series) * p.slope + 1);
    if (fabs(f) < 1e-9 * e) break;
  }
  amps = p.amps + draw;
  int changes = 0, modes[3] = { p.modes[0], p.modes[1], p.modes[2] };
  for (int n = 0; n < SHARES + 30; n++) {
    double h = charge / SHARES / amps, m = s - .5 / SHARES;
    int k = place(m);
    double x = m - soc[k], ohms = at(r0 + k, x), o1 = at(r1 + k, x), o2 = at(r2 + k, x);
    double x1 = h / (o1 * at(c1 + k, x)), x2 = h / (o2 * at(c2 + k, x));
    double e1 = exp(-x1), e2 = exp(-x2), m1 = (1 - e1) / x1, m2 = (1 - e2) / x2;
    double old = v1 * m1 + v2 * m2, new = o1 * (1 - m1) + o2 * (1 - m2) + ohms, whole = area(s);
    double ahead = v + h * (slope + bend * (h + before) / 2), mid = (v + ahead) / 2, first = mid, i = amps;
    for (int q = 0; q < 9; q++) {
      ask(&p, mid);
      i = p.amps + draw;
      double used = i * h / charge, f = 3 * ((whole - area(s - used)) / used - old - new * i) - series * p.amps - mid;
      if (fabs(f) < 1.2e-8) break;
      mid += f / ((3 * new + series) * p.slope + 1);
    }
    double d1 = v1 - i * o1, d2 = v2 - i * o2, n1 = i * o1 + d1 * e1, n2 = i * o2 + d2 * e2;
    double mean1 = i * i * o1 * o1 + 2 * i * o1 * d1 * m1 + d1 * d1 * m1 * (1 + e1) / 2;
    double mean2 = i * i * o2 * o2 + 2 * i * o2 * d2 * m2 + d2 * d2 * m2 * (1 + e2) / 2;
    sum[0] += 3 * h * i * i * ohms;
    sum[1] += 3 * h / o1 * mean1;
    sum[2] += 3 * h / o2 * mean2;
    sum[3] += 1.5 * (h / (x1 * o1) * (n1 * n1 - v1 * v1) + h / (x2 * o2) * (n2 * n2 - v2 * v2));
    sum[4] += h * series * p.amps * p.amps;
    sum[5] += h * (mid + series * p.amps) * draw;
    sum[6] += h * p.own;
    sum[7] += h * p.blend;
    sum[8] += h * (mid * p.lamp - 9 * .55 - p.own - p.blend);
    sum[9] += h * mid * 2.2e-3;
    sum[10] += h * (mid * p.camera_amps - p.rail * p.camera_out - mid * 2.2e-3);
    sum[11] += h * (p.rail - 3.3) * .08;
    sum[12] += h * p.rail * 75e-6;
    sum[13] += h * 9 * .55;
    sum[14] += h * watts;
    sum[15] += h * 3.3 * .08;
    v1 = n1;
    v2 = n2;
    s -= i * h / charge;
    t += h;
    k = place(s);
    x = s - soc[k];
    double open = at(ocv + k, x), e = 3 * (open - v1 - v2), r = 3 * at(r0 + k, x), end = ahead + 2 * (mid - first);
    for (int q = 0; q < 9; q++) {
      ask(&p, end);
      double f = e - r * (p.amps + draw) - series * p.amps - end;
      if (fabs(f) < 1.2e-6) break;
      end += f / ((r + series) * p.slope + 1);
    }
    double now = (end - v) / h;
    bend = slope == 0 ? 0 : 2 * (now - slope) / (h + before);
    slope = now;
    before = h;
    v = end;
    amps = p.amps + draw;
    for (int q = 0; q < 3; q++) if (p.modes[q] != modes[q]) modes[q] = p.modes[q], changes++;
    double row[NUMBERS] = { t, s, (v + series * p.amps) / 3, open, amps, v, p.amps,
      v, p.lamp, 9, .55, p.modes[0], v, p.camera_amps, p.rail, p.camera_out, p.modes[1],
      p.rail, .08 + 75e-6, 3.3, .08, p.modes[2], 9, .55, p.rail, watts / p.rail, 3.3, .08 };
    for (int q = 0; q < NUMBERS; q++) kept[n * NUMBERS + q] = row[q];
    if ((v + series * p.amps) / 3 < 2.5 || s <= 0) break;
  }
  double spent = 3 * charge * area(s);
  for (int k = 0; k < 16; k++) spent += sum[k];
  *closure = fabs(stored - spent) / stored;
  (void)changes;
  return t;
}

static int by_value(const void *a, const void *b) {
  double d = *(const double *)a - *(const double *)b;
  return d > 0 ? 1 : d < 0 ? -1 : 0;
}

int main(int count, char **words) {
  int runs = count > 1 ? atoi(words[1]) : 1000;
  double rows[7][MOST], closure = 0, end = 0;
  if (scanf("%d", &knots) != 1 || knots < 3 || knots > MOST) return 1;
  for (int r = 0; r < 7; r++) for (int k = 0; k < knots; k++) if (scanf("%lf", &rows[r][k]) != 1) return 1;
  if (scanf("%lf %lf %lf", &charge, &series, &draw) != 3) return 1;
  for (int k = 0; k < knots; k++) soc[k] = rows[0][k];
  piece *curves[6] = { ocv, r0, r1, r2, c1, c2 };
  for (int r = 0; r < 6; r++) prepare(curves[r], rows[r + 1]);
  double *times = malloc(runs * sizeof *times);
  for (int n = 0; n < runs; n++) {
    struct timespec a, b;
    watts = 2.1 + 1e-9 * n; /* so that nothing is worked out once for all */
    clock_gettime(CLOCK_MONOTONIC, &a);
    end = run(&closure);
    clock_gettime(CLOCK_MONOTONIC, &b);
    times[n] = (b.tv_sec - a.tv_sec) * 1e3 + (b.tv_nsec - a.tv_nsec) * 1e-6;
  }
  qsort(times, runs, sizeof *times, by_value);
  printf("{\"best\":%.5f,\"median\":%.5f,\"end\":%.4f,\"closure\":%.2e}\n", times[0], times[runs / 2], end, closure);
  return 0;
}
