/* What core/burst does, in C, for the bench to compare with: maps a CSV of seconds and volts, checks every time, and measures its bursts. No answers in
   words, no WAV, no damaged files: it is the fast way through, so the comparison is not kind to us. Compiled and run by `npm run bench -- bursts`. */
#include <fcntl.h>
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

static double now_ms(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static double pow10s[23];

/* A number as core/burst/csv.ts reads it: fifteen digits, a power of ten. */
static const char *number(const char *p, const char *end, double *out) {
  int negative = 0, significant = 0, shift = 0, point = 0, digits = 0;
  double mantissa = 0;
  while (p < end && *p == ' ') p++;
  if (p < end && (*p == '-' || *p == '+')) negative = *p++ == '-';
  for (; p < end; p++) {
    unsigned c = (unsigned char)*p - '0';
    if (c <= 9) {
      digits++;
      if (significant < 15) {
        mantissa = mantissa * 10 + c;
        if (mantissa > 0) significant++;
        if (point) shift--;
      } else if (!point) shift++;
    } else if (!point && *p == '.') point = 1;
    else break;
  }
  if (!digits) return NULL;
  if (p < end && (*p == 'e' || *p == 'E')) {
    int down = 0, exponent = 0;
    p++;
    if (p < end && (*p == '-' || *p == '+')) down = *p++ == '-';
    while (p < end && *p >= '0' && *p <= '9') exponent = exponent * 10 + (*p++ - '0');
    shift += down ? -exponent : exponent;
  }
  int size = shift < 0 ? -shift : shift;
  double value = size < 23 ? (shift < 0 ? mantissa / pow10s[size] : mantissa * pow10s[size]) : mantissa * pow(10, shift);
  *out = negative ? -value : value;
  return p;
}

static float *samples;
static long count;
static double rate;

static int read_csv(const char *text, long size) {
  const char *p = memchr(text, '\n', size), *end = text + size;
  if (!p) return 0;
  p++;
  long most = size / 6 + 1, even = 0, odd = 0;
  samples = malloc(most * sizeof *samples);
  double first = 0, last = 0, sum = 0;
  while (p < end) {
    double at, volts;
    p = number(p, end, &at);
    if (!p || *p != ',') return 0;
    p = number(p + 1, end, &volts);
    if (!p) return 0;
    if (p < end && *p == '\r') p++;
    if (p < end && *p != '\n') return 0;
    p++;
    if (!count) first = at;
    else {
      double here = at - last;
      if (here < 0) return 0;
      double step = even ? sum / even : here;
      if (here == 0 || fabs(here - step) > 0.6 * step) odd++;
      if (here <= 1.5 * step) {
        sum += here;
        even++;
      }
    }
    last = at;
    samples[count++] = volts;
  }
  rate = 1 / ((last - first) / (count - 1));
  return odd == 0;
}

static float *means;
static long blocks, block;

static double drift_at(double i) {
  double place = (i + 0.5) / block - 0.5;
  long k = place < 0 ? 0 : (long)place;
  if (k > blocks - 1) k = blocks - 1;
  long next = k + 1 < blocks ? k + 1 : k;
  double share = place - k;
  share = share < 0 ? 0 : share > 1 ? 1 : share;
  return means[k] * (1 - share) + means[next] * share;
}

static void find_drift(void) {
  block = (long)(0.25e-3 * rate + 0.5);
  if (block < 16) block = 16;
  blocks = (count + block - 1) / block;
  means = malloc(blocks * sizeof *means);
  for (long k = 0; k < blocks; k++) {
    long from = k * block, to = from + block < count ? from + block : count;
    double sum = 0;
    for (long i = from; i < to; i++) sum += samples[i];
    means[k] = sum / (to - from);
  }
}

static double coarse_carrier(void) {
  enum { length = 1024, kept = 4 };
  double power[length] = {0}, best[kept] = {0};
  long starts[kept] = {0};
  int found = 0;
  for (long start = 0; start + length <= count; start += length) {
    double p = 0;
    for (int i = 0; i < length; i += 4) {
      double x = samples[start + i] - drift_at(start + i);
      p += x * x;
    }
    int at = found < kept ? found++ : kept - 1;
    if (p <= best[at] && at == kept - 1) continue;
    while (at > 0 && best[at - 1] < p) {
      best[at] = best[at - 1];
      starts[at] = starts[at - 1];
      at--;
    }
    best[at] = p;
    starts[at] = start;
  }
  int from = (int)ceil(20000.0 * length / rate), to = (int)(0.42 * length);
  if (from < 2) from = 2;
  for (int s = 0; s < found; s++) {
    double x[length];
    for (int i = 0; i < length; i++)
      x[i] = (samples[starts[s] + i] - drift_at(starts[s] + i)) * (0.5 - 0.5 * cos(2 * M_PI * (i + 0.5) / length));
    for (int bin = from; bin <= to; bin++) {
      double twice = 2 * cos(2 * M_PI * bin / length), before = 0, that = 0;
      for (int i = 0; i < length; i++) {
        double y = x[i] + twice * before - that;
        that = before;
        before = y;
      }
      power[bin - from] += before * before + that * that - twice * before * that;
    }
  }
  int n = to - from + 1, top = 1;
  for (int i = 1; i < n - 1; i++)
    if (power[i] > power[top]) top = i;
  double a = log(power[top - 1]), b = log(power[top]), c = log(power[top + 1]), bend = a - 2 * b + c;
  double off = bend < 0 ? 0.5 * (a - c) / bend : 0;
  return (from + top + (off < -0.5 ? -0.5 : off > 0.5 ? 0.5 : off)) * rate / length;
}

static double carrier;
static long length;

/* One stretch mixed down: I and Q for means that end at samples from up to to. */
static long mix(long from, long to, double *I, double *Q) {
  static double ring_i[4096], ring_q[4096];
  double turn = 2 * M_PI * carrier / rate, step_c = cos(turn), step_s = sin(turn), c = 1, s = 0, sum_i = 0, sum_q = 0;
  long begin = from - length + 1 < 0 ? 0 : from - length + 1, at = 0, out = 0, line_end = begin;
  double near = 0, slope = 0;
  memset(ring_i, 0, sizeof ring_i);
  memset(ring_q, 0, sizeof ring_q);
  for (long i = begin; i < to; i++) {
    if (i == begin || (i & 1023) == 0) {
      c = cos(fmod(turn * i, 2 * M_PI));
      s = sin(fmod(turn * i, 2 * M_PI));
    }
    if (i >= line_end) {
      double place = (i + 0.5) / block - 0.5;
      long k = (long)floor(place);
      if (place < 0) near = means[0], slope = 0, line_end = (long)ceil(block / 2.0 - 0.5);
      else if (k >= blocks - 1) near = means[blocks - 1], slope = 0, line_end = count + 1;
      else {
        double change = means[k + 1] - means[k];
        near = means[k] + change * (place - k);
        slope = change / block;
        line_end = (long)ceil((k + 1.5) * block - 0.5);
      }
    }
    double x = samples[i] - near, p = x * c, q = -x * s;
    near += slope;
    sum_i += p - ring_i[at];
    sum_q += q - ring_q[at];
    ring_i[at] = p;
    ring_q[at] = q;
    if (++at == length) at = 0;
    if (i >= begin + length - 1) {
      I[out] = 2 * sum_i / length;
      Q[out++] = 2 * sum_q / length;
    }
    double turned = c * step_c - s * step_s;
    s = c * step_s + s * step_c;
    c = turned;
  }
  return out;
}

static int ascending(const void *a, const void *b) {
  double x = *(const double *)a, y = *(const double *)b;
  return x < y ? -1 : x > y;
}

enum { stretch = 8192 };
static double I[stretch + 64], Q[stretch + 64];

int main(int argc, char **argv) {
  if (argc < 2) return 2;
  for (int i = 0; i < 23; i++) pow10s[i] = pow(10, i);
  double began = now_ms();
  int file = open(argv[1], O_RDONLY);
  struct stat about;
  if (file < 0 || fstat(file, &about)) return 2;
  const char *text = mmap(NULL, about.st_size, PROT_READ, MAP_PRIVATE, file, 0);
  if (text == MAP_FAILED || !read_csv(text, about.st_size)) return 3;
  double was_read = now_ms();

  find_drift();
  carrier = coarse_carrier();
  length = (long)(3 * rate / carrier + 0.5);
  if (length < 4) length = 4;
  enum { per_decade = 400, decades = 13 };
  static unsigned counts[per_decade * decades + 1];
  long step = (length + 1) / 2, next = step - 1, all = 0;
  for (long from = length - 1; from < count; from += stretch) {
    long to = from + stretch < count ? from + stretch : count, n = mix(from, to, I, Q);
    for (; next < n; next += step, all++) {
      double place = (log10(fmax(1e-18, I[next] * I[next] + Q[next] * Q[next])) / 2 + 9) * per_decade + 0.5;
      counts[place < 0 ? 0 : place > per_decade * decades ? per_decade * decades : (long)place]++;
    }
    next -= n;
  }
  long seen = 0, at = 0;
  while ((seen += counts[at]) < 0.1 * all) at++;
  double scale = pow(10, (double)at / per_decade - 9) / sqrt(-2 * log(0.9));

  /* Regions, those with short pauses together. */
  double begins = 36 * scale * scale, goes_on = 16 * scale * scale, peak = 0;
  static double froms[100000], tos[100000], peaks[100000];
  long regions = 0, inside = 0;
  double late = (length - 1) / 2.0, pause = 2e-3 * rate, start = 0, last = 0;
  for (long from = length - 1; from < count; from += stretch) {
    long to = from + stretch < count ? from + stretch : count, n = mix(from, to, I, Q);
    for (long i = 0; i <= n; i++) {
      double power = i < n ? I[i] * I[i] + Q[i] * Q[i] : -1;
      if (i == n && to < count) break;
      if (!inside && power >= begins) {
        inside = 1;
        start = last = from + i - late;
        peak = power;
      } else if (inside && power < goes_on) {
        inside = 0;
        if (regions && start - tos[regions - 1] <= pause) {
          tos[regions - 1] = last;
          if (peak > peaks[regions - 1]) peaks[regions - 1] = peak;
        } else if (regions < 100000) {
          froms[regions] = start;
          tos[regions] = last;
          peaks[regions++] = peak;
        }
      } else if (inside) {
        last = from + i - late;
        if (power > peak) peak = power;
      }
    }
  }

  long bursts = 0;
  double first_ms = 0, weights = 0, weighted = 0, first_length = 0;
  for (long r = 0; r < regions; r++) {
    if (tos[r] - froms[r] < 3 * length || peaks[r] < 81 * scale * scale) continue;
    long margin = 2 * length, from = (long)ceil(froms[r] - margin + late), to = (long)floor(tos[r] + margin + late) + 1;
    if (from < length - 1) from = length - 1;
    if (to > count) to = count;
    double *i_all = malloc((to - from + 1) * sizeof(double)), *q_all = malloc((to - from + 1) * sizeof(double));
    double *heights = malloc((to - from + 1) * sizeof(double)), *sorted = malloc((to - from + 1) * sizeof(double));
    long n = mix(from, to, i_all, q_all), m = 0;
    double origin = from - late, half_peak = sqrt(peaks[r]) / 2;
    for (long i = 0; i < n; i++) heights[i] = sqrt(i_all[i] * i_all[i] + q_all[i] * q_all[i]);
    long a = (long)(froms[r] - origin) + length, b = (long)(tos[r] - origin) - length;
    for (long i = a; i < b; i++)
      if (heights[i] > half_peak) sorted[m++] = heights[i];
    qsort(sorted, m, sizeof(double), ascending);
    double middle = m ? sorted[m / 2] : 0, amplitude = sqrt(fmax(0, middle * middle - scale * scale)), half = amplitude / 2;
    if (amplitude >= 9 * scale) {
      long rise = 0, fall = n - 1;
      while (heights[rise] < half) rise++;
      while (heights[fall] < half) fall--;
      double starts = rise ? rise - 1 + (half - heights[rise - 1]) / (heights[rise] - heights[rise - 1]) : rise;
      double ends = fall < n - 1 ? fall + (heights[fall] - half) / (heights[fall] - heights[fall + 1]) : fall;
      double w = 0, wk = 0, wp = 0, wkk = 0, wkp = 0, phase = 0;
      long k = 0, points = 0;
      for (long i = rise + length; i <= fall - length; i += length, k++) {
        double weight = i_all[i] * i_all[i] + q_all[i] * q_all[i];
        if (weight < half * half) continue;
        double raw = atan2(q_all[i], i_all[i]), off = raw - phase;
        phase = points++ ? phase + off - 2 * M_PI * round(off / (2 * M_PI)) : raw;
        w += weight, wk += weight * k, wp += weight * phase, wkk += weight * k * k, wkp += weight * k * phase;
      }
      double slope = points < 4 ? 0 : (wkp - wk * wp / w) / (wkk - wk * wk / w);
      weights += fall - rise;
      weighted += (fall - rise) * (carrier + slope * rate / (2 * M_PI * length));
      if (!bursts++) first_ms = (origin + starts) / rate * 1e3, first_length = (ends - starts) / rate * 1e3;
    }
    free(i_all), free(q_all), free(heights), free(sorted);
  }
  printf("{\"readMs\":%.3f,\"measureMs\":%.3f,\"samples\":%ld,\"count\":%ld,\"carrierHz\":%.4f,\"startMs\":%.6f,\"durationMs\":%.6f}\n", was_read - began,
         now_ms() - was_read, count, bursts, bursts ? weighted / weights : 0, first_ms, first_length);
  return 0;
}
