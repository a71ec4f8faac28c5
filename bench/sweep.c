/* The sweep of core/coverage written plainly in C, one thread, no vectors: what bench/coverage.ts holds the real one against. It is given
 * what the rays read: for each a head of counts (points, receivers, stretches of trees, points close before receivers), all as doubles. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
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
static double lost(double v, double km) {
  double j = edge_db(v);
  return j + (1 - exp(-j / 6)) * (10 + 0.02 * km);
}

int main(int argc, char **argv) {
  if (argc < 7) return 2;
  double spacing = atof(argv[2]), tx_m = atof(argv[3]), rx_m = atof(argv[4]), ghz = atof(argv[5]);
  size_t cells = atol(argv[6]);
  FILE *file = fopen(argv[1], "rb");
  if (!file) return 1;
  fseek(file, 0, SEEK_END);
  size_t size = ftell(file) / 8;
  rewind(file);
  double *all = malloc(size * 8);
  if (fread(all, 8, size, file) != size) return 1;
  fclose(file);
  size_t most = 0;
  for (size_t at = 0; at < size;) {
    double *head = all + at;
    if (head[0] > most) most = head[0];
    at += 4 + 3 * head[0] + 6 * head[1] + 4 * head[2] + 3 * head[3];
  }
  float *loss = malloc(cells * 4), *diffraction = malloc(cells * 4), *tilt_down = malloc(cells * 4), *in_trees = malloc(cells * 4);
  double *bares = malloc(most * 8 + 8), *tops = malloc(most * 8), *unders = malloc(most * 8);
  double *hull_at = malloc(most * 8), *hull_m = malloc(most * 8), *past_at = malloc(most * 8), *past_s = malloc(most * 8);
  double curve = 500 / (4.0 / 3 * 6371) * spacing * spacing, v_factor = 0.002 / (0.299792458 / ghz * spacing);
  double free_db = 92.44778 + 20 * log10(ghz * spacing), best = 1e9;
  for (int run = 0; run < 7; run++) {
    struct timespec a, b;
    for (size_t i = 0; i < cells; i++) loss[i] = NAN;
    clock_gettime(CLOCK_MONOTONIC, &a);
    for (size_t start = 0; start < size;) {
      double *head = all + start;
      int points = head[0], receivers = head[1], stretches = head[2], nears = head[3];
      double *ground = head + 4, *cover = ground + points, *trees = cover + points;
      double *at = trees + points, *rx_ground = at + receivers, *line_end = rx_ground + receivers;
      double *own_back = line_end + receivers, *near_count = own_back + receivers, *own = near_count + receivers;
      double *from = own + receivers, *to = from + stretches, *height = to + stretches, *density = height + stretches;
      double *back = density + stretches, *near_top = back + nears, *near_under = near_top + nears;
      start += 4 + 3 * points + 6 * receivers + 4 * stretches + 3 * nears;
      double tx = ground[0] + tx_m, tx_slope = -INFINITY, under_slope = -INFINITY;
      int hull = 0, past = 0, under_at = 0, grown = 0, near = 0;
      for (int i = 0; i < points; i++) {
        bares[i] = ground[i] - curve * i * i;
        tops[i] = bares[i] + cover[i];
        unders[i] = trees[i] ? bares[i] : tops[i];
      }
      bares[points] = bares[points - 1];
      for (int r = 0; r < receivers; near += near_count[r], r++) {
        double d = at[r];
        if (d >= points) break;
        if (rx_ground[r] != rx_ground[r]) continue;
        size_t cell = own[r];
        while (grown + 1 <= line_end[r]) {
          grown++;
          double top = tops[grown], slope = (top - tx) / grown, under = (unders[grown] - tx) / grown;
          if (under >= under_slope) under_slope = under, under_at = grown;
          if (slope >= tx_slope) {
            tx_slope = slope;
            past_at[past] = grown;
            past_s[past++] = slope;
            hull = 0;
          }
          while (hull >= 2 && (hull_m[hull - 1] - hull_m[hull - 2]) * (grown - hull_at[hull - 2]) <=
                                  (top - hull_m[hull - 2]) * (hull_at[hull - 1] - hull_at[hull - 2]))
            hull--;
          hull_at[hull] = grown;
          hull_m[hull++] = top;
        }
        double rx = rx_ground[r] + rx_m - curve * d * d, slope = (rx - tx) / d, horizon = tx_slope, rx_slope = -INFINITY, v;
        int count = near_count[r];
        double n_at[4], n_top[4], n_under[4];
        for (int i = 0; i < count; i++) {
          int n = near + i;
          n_at[i] = d - back[n];
          n_top[i] = near_top[n] - curve * n_at[i] * n_at[i];
          n_under[i] = near_under[n] - curve * n_at[i] * n_at[i];
          horizon = fmax(horizon, (n_top[i] - tx) / n_at[i]);
          rx_slope = fmax(rx_slope, (n_top[i] - rx) / back[n]);
        }
        if (horizon >= slope) {
          double tangent = -INFINITY;
          for (int i = hull - 1; i >= 0; i--) {
            double s = (hull_m[i] - rx) / (d - hull_at[i]);
            if (!(s > tangent)) break;
            tangent = s;
          }
          rx_slope = fmax(rx_slope, tangent);
          v = sqrt(v_factor * d * (horizon - slope) * fmax(0, rx_slope + slope));
        } else {
          double least = INFINITY;
          for (int i = 0; i < count; i++) {
            double under = slope - (n_top[i] - tx) / n_at[i];
            least = fmin(least, under * under * n_at[i] / back[near + i]);
          }
          for (int i = past - 1; i >= 0; i--) {
            double under = slope - past_s[i];
            least = fmin(least, under * under * past_at[i] / (d - past_at[i]));
          }
          v = -sqrt(v_factor * d * least);
        }
        double extra = lost(v, d * spacing), trees_db = 0;
        if (v >= 0 && under_slope < slope) {
          double below = slope - under_slope, least = under_at > 0 ? below * below * under_at / (d - under_at) : INFINITY;
          int is_cut = 0;
          for (int i = 0; i < count; i++) {
            below = slope - (n_under[i] - tx) / n_at[i];
            if (below < 0) is_cut = 1;
            least = fmin(least, below * below * n_at[i] / back[near + i]);
          }
          double under = lost(-sqrt(v_factor * d * least), d * spacing), depth = 0, end = d - own_back[r];
          if (!is_cut && under < extra) {
            for (int i = 0; i < stretches && depth <= 400; i++) {
              double f = fmax(from[i], 0.005 / spacing), t = fmin(to[i], end), within = 0;
              if (f > end) break;
              for (int s = floor(f); s < t; s++) {
                double h0 = tx + slope * s - bares[s], h1 = tx + slope * (s + 1) - bares[s + 1];
                double x = fmax(0, f - s), y = fmin(1, t - s), g = -h0 / (h1 - h0), top = (height[i] - h0) / (h1 - h0);
                if (h1 == h0) within += h0 > 0 && h0 < height[i] ? fmax(0, y - x) : 0;
                else within += fmax(0, fmin(y, fmax(g, top)) - fmax(x, fmin(g, top)));
              }
              depth += within * spacing * 1000 * density[i];
            }
            trees_db = depth > 0 ? foliage_db(ghz, depth) : 0;
            if (trees_db + under < extra) extra = trees_db + under;
            else trees_db = 0;
          }
        }
        loss[cell] = free_db + 20 * log10(d) + extra;
        diffraction[cell] = extra;
        in_trees[cell] = trees_db;
        tilt_down[cell] = -atan(slope / (1000 * spacing)) * 57.29577951308232;
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
