/* The sweep of core/coverage written plainly in C, one thread, no vectors: what bench/coverage.ts holds the real one against. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static double edge_db(double v) {
  if (v <= -0.78) return 0;
  return 6.9 + 20 * log10(sqrt((v - 0.1) * (v - 0.1) + 1) + v - 0.1);
}

/* Weissberger's loss of so many metres of trees in leaf. */
static double foliage_db(double ghz, double depth) {
  if (depth > 400) depth = 400;
  return depth <= 14 ? 0.45 * pow(ghz, 0.284) * depth : 1.33 * pow(ghz, 0.284) * pow(depth, 0.588);
}
static int is_trees(unsigned char code) { return (code & 15) == 2 || (code & 15) == 3 || (code & 15) == 5; }
static double density(unsigned char code) { return code >> 4 ? (code >> 4) / 10.0 : 1; }
static double lost(double v, double km) {
  double j = edge_db(v);
  return j + (1 - exp(-j / 6)) * (10 + 0.02 * km);
}

int main(int argc, char **argv) {
  if (argc < 7) return 2;
  int rings = atoi(argv[2]);
  double cell_km = atof(argv[3]), tx_m = atof(argv[4]), rx_m = atof(argv[5]), ghz = atof(argv[6]);
  int side = 2 * rings + 1;
  size_t cells = (size_t)side * side;
  float *ground = malloc(cells * 4), *cover = malloc(cells * 4), *loss = malloc(cells * 4);
  float *diffraction = malloc(cells * 4), *tilt_down = malloc(cells * 4), *in_trees = malloc(cells * 4);
  unsigned char *code = malloc(cells), *codes = malloc(2 * side);
  double *unders = malloc(side * 8);
  double *tree_from = malloc(side * 16), *tree_to = malloc(side * 16), *tree_m = malloc(side * 16);
  double *hull_km = malloc(side * 8), *hull_m = malloc(side * 8), *past_km = malloc(side * 8), *past_s = malloc(side * 8);
  double *bares = malloc(side * 8), *tops = malloc(side * 8);
  FILE *file = fopen(argv[1], "rb");
  if (!file || fread(ground, 4, cells, file) != cells || fread(cover, 4, cells, file) != cells || fread(code, 1, cells, file) != cells) return 1;
  fclose(file);
  double curve = 500 / (4.0 / 3 * 6371), v_factor = 0.002 / (0.299792458 / ghz), free_db = 92.44778 + 20 * log10(ghz);
  double zone = 0.03, first = (floor(zone / cell_km + 1e-9) + 1) * cell_km;
  double best = 1e9;
  for (int run = 0; run < 7; run++) {
    struct timespec a, b;
    for (size_t i = 0; i < cells; i++) loss[i] = NAN;
    clock_gettime(CLOCK_MONOTONIC, &a);
    for (int ray = 0; ray < 16 * rings; ray++) {
      double along = (ray % (4 * rings)) / 2.0 - rings, east, south;
      switch (ray / (4 * rings)) {
        case 0: east = along; south = -rings; break;
        case 1: east = rings; south = along; break;
        case 2: east = -along; south = rings; break;
        default: east = -rings; south = -along;
      }
      int steep = fabs(south) >= fabs(east);
      double across = (steep ? east : south) / rings, half = fabs(across) / 2 - 1e-9;
      long major = steep ? (south > 0 ? side : -side) : (east > 0 ? 1 : -1), minor_stride = steep ? 1 : side;
      double step_km = hypot(east / rings, south / rings) * cell_km, tx = ground[(size_t)rings * side + rings] + tx_m;
      long start = (long)rings * side + rings, own = lround(across * rings * 2);
      int cover_back = fmax(1, floor(first / step_km + 0.5)), zone_back = floor(zone / step_km + 0.5);
      if (fabs(zone / step_km - zone_back) >= 0.5 - 1e-9) zone_back = 0;
      int held = fmax(cover_back, ceil(first / cell_km - 1e-9)), hull = 0, past = 0;
      int trees = 0, under_at = 0;
      bares[0] = ground[start];
      double tx_slope = -INFINITY, under_slope = -INFINITY;
      for (int step = 1; step <= rings; step++) {
        double km = step * step_km;
        if (km > rings * cell_km * (1 + 1e-9)) break;
        double minor = across * step;
        long below = floor(minor), column = floor(minor + 0.5);
        double share = minor - below;
        long own_cell = start + step * major + column * minor_stride, base = start + step * major + below * minor_stride;
        double bare = share == 0 ? ground[base] : ground[base] + (ground[base + minor_stride] - ground[base]) * share;
        if (bare != bare) break;
        double curve_m = curve * km * km;
        if ((long)floor((double)column * rings * 2 / step + 0.5) == own) {
          double rx = ground[own_cell] + rx_m - curve_m, slope = (rx - tx) / km, horizon = tx_slope, rx_slope = -INFINITY, v;
          for (int back = 1; back <= held && back < step; back++) {
            double at = km - back * step_km, over = back > cover_back ? tops[step - back] : bares[step - back];
            horizon = fmax(horizon, (over - tx) / at);
            rx_slope = fmax(rx_slope, (over - rx) / (km - at));
          }
          int near = 0;
          double near_km[3], near_m[3], near_under[3];
          if (step > cover_back && km - first > zone) {
            int z = step - zone_back, c = step - cover_back;
            if (zone_back > 0 && tops[z] > bares[z])
              for (int edge = 0; edge < 2; edge++)
                near_km[near] = edge ? (zone_back + 0.5) * step_km : zone, near_m[near] = tops[z], near_under[near++] = unders[z];
            if (tops[c] > bares[c]) near_km[near] = first, near_m[near] = tops[c], near_under[near++] = unders[c];
          }
          for (int i = 0; i < near; i++) {
            horizon = fmax(horizon, (near_m[i] - tx) / (km - near_km[i]));
            rx_slope = fmax(rx_slope, (near_m[i] - rx) / near_km[i]);
          }
          if (horizon >= slope) {
            double tangent = -INFINITY;
            for (int i = hull - 1; i >= 0; i--) {
              double back = (hull_m[i] - rx) / (km - hull_km[i]);
              if (!(back > tangent)) break;
              tangent = back;
            }
            rx_slope = fmax(rx_slope, tangent);
            v = sqrt(v_factor * km * (horizon - slope) * fmax(0, rx_slope + slope));
          } else {
            double least = INFINITY;
            for (int back = 1; back <= held && back < step; back++) {
              double at = km - back * step_km, over = back >= cover_back ? tops[step - back] : bares[step - back];
              double under = slope - (over - tx) / at;
              least = fmin(least, under * under * at / (km - at));
            }
            for (int i = 0; i < near; i++) {
              double at = km - near_km[i], under = slope - (near_m[i] - tx) / at;
              least = fmin(least, under * under * at / near_km[i]);
            }
            for (int i = past - 1; i >= 0; i--) {
              double under = slope - past_s[i];
              least = fmin(least, under * under * past_km[i] / (km - past_km[i]));
            }
            v = -sqrt(v_factor * km * least);
          }
          double extra = lost(v, km), trees_db = 0;
          if (v >= 0 && trees > 0 && under_slope < slope) {
            double below = slope - under_slope, at = under_at * step_km, least = INFINITY;
            int is_cut = 0;
            if (under_at > 0) least = below * below * at / (km - at);
            for (int back = 1; back <= held && back < step; back++) {
              double near_km = km - back * step_km, over = back >= cover_back ? unders[step - back] : bares[step - back];
              below = slope - (over - tx) / near_km;
              if (below < 0) is_cut = 1;
              least = fmin(least, below * below * near_km / (km - near_km));
            }
            for (int i = 0; i < near; i++) {
              double at = km - near_km[i];
              below = slope - (near_under[i] - tx) / at;
              if (below < 0) is_cut = 1;
              least = fmin(least, below * below * at / near_km[i]);
            }
            double under = lost(-sqrt(v_factor * km * least), km), depth = 0;
            if (!is_cut && under < extra) {
              for (int i = 0; i < trees && depth <= 400; i++) {
                double from = fmax(tree_from[i], zone / step_km), to = fmin(tree_to[i], step - zone / step_km), within = 0;
                if (from > step) break;
                for (int at = floor(from); at < to; at++) {
                  double h0 = tx + slope * at * step_km - bares[at], h1 = tx + slope * (at + 1) * step_km - bares[at + 1];
                  double f = fmax(0, from - at), t = fmin(1, to - at), g = -h0 / (h1 - h0), top = (tree_m[i] - h0) / (h1 - h0);
                  if (h1 == h0) within += h0 > 0 && h0 < tree_m[i] ? fmax(0, t - f) : 0;
                  else within += fmax(0, fmin(t, fmax(g, top)) - fmax(f, fmin(g, top)));
                }
                depth += within * step_km * 1000 * density(codes[i]);
              }
              if (depth > 0) trees_db = foliage_db(ghz, depth);
              if (trees_db > 0 && trees_db + under < extra) extra = trees_db + under;
              else trees_db = 0;
            }
          }
          loss[own_cell] = free_db + 20 * log10(km) + extra;
          diffraction[own_cell] = extra;
          in_trees[own_cell] = trees_db;
          tilt_down[own_cell] = -atan(slope / 1000) * 57.29577951308232;
        }
        long lower = floor(minor - half + 0.5), upper = floor(minor + half + 0.5);
        long before = start + step * major + (across > 0 ? lower : upper) * minor_stride;
        long after = start + step * major + (across > 0 ? upper : lower) * minor_stride;
        bares[step] = bare - curve_m;
        tops[step] = unders[step] = bares[step] + (km <= zone ? 0 : fmax(cover[before], cover[after]));
        if (tops[step] > bares[step]) {
          double edge = before == after ? step + 0.5 : (lower + upper) / (2 * across);
          if (is_trees(code[before]))
            tree_from[trees] = step - 0.5, tree_to[trees] = edge, tree_m[trees] = cover[before], codes[trees++] = code[before];
          if (before != after && is_trees(code[after]))
            tree_from[trees] = edge, tree_to[trees] = step + 0.5, tree_m[trees] = cover[after], codes[trees++] = code[after];
          if (is_trees(code[cover[after] > cover[before] ? after : before])) unders[step] = bares[step];
        }
        int grown = step - held;
        if (grown < 1) continue;
        double grown_km = grown * step_km, grown_m = tops[grown], grown_slope = (grown_m - tx) / grown_km;
        double grown_under = (unders[grown] - tx) / grown_km;
        if (grown_under >= under_slope) under_slope = grown_under, under_at = grown;
        if (grown_slope >= tx_slope) {
          tx_slope = grown_slope;
          past_km[past] = grown_km;
          past_s[past++] = grown_slope;
          hull = 0;
        }
        while (hull >= 2 && (hull_m[hull - 1] - hull_m[hull - 2]) * (grown_km - hull_km[hull - 2]) <=
                                (grown_m - hull_m[hull - 2]) * (hull_km[hull - 1] - hull_km[hull - 2]))
          hull--;
        hull_km[hull] = grown_km;
        hull_m[hull++] = grown_m;
      }
    }
    clock_gettime(CLOCK_MONOTONIC, &b);
    double ms = (b.tv_sec - a.tv_sec) * 1e3 + (b.tv_nsec - a.tv_nsec) / 1e6;
    if (ms < best) best = ms;
  }
  double sum = 0, others = 0;
  size_t known = 0;
  for (size_t i = 0; i < cells; i++)
    if (loss[i] == loss[i]) sum += loss[i], others += diffraction[i] + tilt_down[i] + in_trees[i], known++;
  if (others != others) return 1;
  printf("%.2f %.6f %zu\n", best, sum / known, known);
  return 0;
}
