/* The reference battle, written for nothing else: the limit that the engine is held against.
   Usage: battle FIGHTS SEED SIDE; prints left wins, right wins, mutual downs, time-outs, the sum of ticks, the sum over
   all ticks of the units that are up, the sum of units up at the end, seconds. */
#include <math.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

enum { LIMIT = 18000, MOST = 64, SHOTS = 8 * MOST, PIKE = 0, SLING = 1, BRAZIER = 2 };
#define NEVER INT64_MAX
#define NEARLY 1e-9
#define STEP (3.0 / 60)
#define LOST (6.0 / 60)

static const double REACH[3] = {2, 12, 9}, KEEPS[3] = {0, 6, 5}, POWER[3] = {14, 11, 8};
static const int64_t COOLDOWN[3] = {54, 90, 150};

typedef struct { int64_t at; int user, target; } Shot;

static uint64_t state;
static int units, a_side, kind[MOST], up[MOST], want[MOST], waiting[MOST], target[MOST], doomed[MOST], order[MOST];
static int listed[2], list[2][MOST], shots;
static int64_t health[MOST], ready_at[MOST], choose_at[MOST];
static double x[MOST], y[MOST], push_x[MOST], push_y[MOST];
static Shot shot[SHOTS];

static inline double draw(void) {
    uint64_t z = (state += 0x9E3779B97F4A7C15ull);
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ull;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBull;
    return (double)((z ^ (z >> 31)) >> 11) * 0x1p-53;
}

static void gather(void) {
    listed[0] = listed[1] = 0;
    for (int u = 0; u < units; u++)
        if (up[u]) list[u >= a_side][listed[u >= a_side]++] = u;
}

static inline int nearest(int u, double *square) {
    int side = u < a_side, best = -1;
    double least = INFINITY;
    for (int k = 0; k < listed[side]; k++) {
        int other = list[side][k];
        double east = x[other] - x[u], north = y[other] - y[u], far = east * east + north * north;
        if (far < least) least = far, best = other;
    }
    *square = least;
    return best;
}

static int hit(int user, int taker) {
    if (draw() >= 0.9) return 0;
    double times = draw() < 0.1 ? 1.5 : 1.0;
    int64_t points = (int64_t)floor(POWER[kind[user]] * times * (1 + 0.1 * (2 * draw() - 1)) + 0.5);
    health[taker] = points >= health[taker] ? 0 : health[taker] - points;
    return 1;
}

static void land(int u, int64_t tick) {
    int taker = target[u];
    double east = x[taker] - x[u], north = y[taker] - y[u], far = sqrt(east * east + north * north);
    if (kind[u] == PIKE) {
        if (hit(u, taker)) {
            push_x[taker] += far > 0 ? 2 * east / far : x[taker] <= 20 ? 2 : -2;
            push_y[taker] += far > 0 ? 2 * north / far : 0;
        }
    } else if (kind[u] == SLING) {
        int64_t ticks = (int64_t)ceil(far / 20 * 60 - NEARLY);
        shot[shots++] = (Shot){tick + (ticks < 1 ? 1 : ticks), u, taker};
    } else {
        int side = taker >= a_side;
        for (int k = 0; k < listed[side]; k++) {
            int other = list[side][k];
            double a = x[other] - x[taker], b = y[other] - y[taker];
            if (a * a + b * b <= (2.5 + NEARLY) * (2.5 + NEARLY)) hit(u, other);
        }
    }
}

static inline void step_to(int u, double to_x, double to_y, double near) {
    double east = to_x - x[u], north = to_y - y[u], far = sqrt(east * east + north * north);
    double step = STEP < far - near ? STEP : far - near;
    if (step > NEARLY) x[u] += step * east / far, y[u] += step * north / far;
}

static void move(int u) {
    double speed = sqrt(push_x[u] * push_x[u] + push_y[u] * push_y[u]);
    int slides = speed > 0;
    if (slides) {
        double way = speed > LOST ? (speed - LOST / 2) / 60 : speed * speed / 12, left = speed > LOST ? 1 - LOST / speed : 0;
        x[u] += push_x[u] * way / speed, y[u] += push_y[u] * way / speed;
        push_x[u] *= left, push_y[u] *= left;
    } else {
        int shuns = 0;
        if (KEEPS[kind[u]] > 0) {
            double square;
            int foe = nearest(u, &square);
            double keeps = KEEPS[kind[u]], far = sqrt(square);
            if (foe >= 0 && far < keeps - NEARLY) {
                double share = far > 0 ? keeps / far : 0;
                shuns = 1;
                step_to(u, far > 0 ? x[foe] + share * (x[u] - x[foe]) : x[u] + keeps, y[foe] + share * (y[u] - y[foe]), 0);
            }
        }
        if (!shuns && want[u] >= 0 && up[want[u]]) step_to(u, x[want[u]], y[want[u]], REACH[kind[u]]);
    }
    if (x[u] < 0) x[u] = push_x[u] = 0;
    if (x[u] > 40) x[u] = 40, push_x[u] = 0;
    if (y[u] > 24) y[u] = 24, push_y[u] = 0;
    if (y[u] < 0) {
        y[u] = push_y[u] = 0;
        if (slides) push_x[u] = 0, doomed[u] = 1;
    }
}

static void begin(void) {
    units = 2 * a_side, shots = 0;
    for (int u = 0; u < units; u++) {
        int k = u % a_side;
        kind[u] = 16 * k < 8 * a_side ? PIKE : 16 * k < 13 * a_side ? SLING : BRAZIER;
        x[u] = u < a_side ? 8 + 0.37 * (7 * k % 5) : 32 - 0.41 * (3 * k % 7), y[u] = 2 + 20.0 * k / a_side + 0.13 * (5 * k % 3);
        up[u] = 1, health[u] = 100, ready_at[u] = choose_at[u] = 0, want[u] = -1, waiting[u] = doomed[u] = 0;
        push_x[u] = push_y[u] = 0;
    }
    gather();
}

static int fight(int64_t *ticks, int64_t *present) {
    begin();
    for (int64_t tick = 0;; tick++) {
        int n = 0, uses[MOST], used = 0;
        for (int u = 0; u < units; u++)
            if (up[u]) order[n++] = u;
        *present += n;
        for (int k = n - 1; k > 0; k--) {
            int other = (int)(draw() * (k + 1)), u = order[k];
            order[k] = order[other], order[other] = u;
        }
        if (tick && tick % 60 == 0)
            for (int k = 0; k < n; k++) health[order[k]] += health[order[k]] < 100;
        for (int k = 0; k < shots;)
            if (shot[k].at <= tick) {
                if (up[shot[k].target]) hit(shot[k].user, shot[k].target);
                shot[k] = shot[--shots];
            } else
                k++;
        for (int k = 0; k < n; k++) {
            int u = order[k];
            if (choose_at[u] > tick && !waiting[u]) continue;
            waiting[u] = 0;
            if (ready_at[u] > tick) {
                choose_at[u] = ready_at[u];
                if (want[u] >= 0 && !up[want[u]]) want[u] = -1;
                continue;
            }
            double square, reach = REACH[kind[u]] + NEARLY;
            int foe = nearest(u, &square);
            if (foe >= 0 && square <= reach * reach) {
                target[u] = want[u] = foe, ready_at[u] = tick + COOLDOWN[kind[u]], choose_at[u] = tick + 1;
                uses[used++] = u;
            } else
                want[u] = foe, waiting[u] = 1, choose_at[u] = NEVER;
        }
        for (int k = 0; k < used; k++) land(uses[k], tick);
        for (int k = 0; k < n; k++) move(order[k]);
        int fell = 0;
        for (int k = 0; k < n; k++)
            if (health[order[k]] == 0 || doomed[order[k]]) up[order[k]] = 0, fell = 1;
        if (fell) {
            gather();
            if (!listed[0] || !listed[1]) {
                *ticks = tick;
                return listed[0] ? 0 : listed[1] ? 1 : 2;
            }
        }
        if (tick >= LIMIT) {
            *ticks = tick;
            return 3;
        }
    }
}

int main(int count, char **words) {
    int64_t fights = count > 1 ? atoll(words[1]) : 1000, outcomes[4] = {0}, ticks, total = 0, present = 0, left = 0;
    state = count > 2 ? strtoull(words[2], NULL, 10) : 7;
    a_side = count > 3 ? atoi(words[3]) : 16;
    struct timespec begun, ended;
    clock_gettime(CLOCK_MONOTONIC, &begun);
    for (int64_t i = 0; i < fights; i++) {
        outcomes[fight(&ticks, &present)]++;
        total += ticks, left += listed[0] + listed[1];
    }
    clock_gettime(CLOCK_MONOTONIC, &ended);
    double seconds = (double)(ended.tv_sec - begun.tv_sec) + 1e-9 * (double)(ended.tv_nsec - begun.tv_nsec);
    printf("%lld %lld %lld %lld %lld %lld %lld %.6f\n", (long long)outcomes[0], (long long)outcomes[1],
           (long long)outcomes[2], (long long)outcomes[3], (long long)total, (long long)present, (long long)left, seconds);
    return 0;
}
