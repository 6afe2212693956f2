/* The reference duel, written for nothing else: the limit that the engine is held against.
   Usage: duel FIGHTS SEED; prints left wins, right wins, mutual downs, time-outs, the sum of ticks, seconds. */
#include <math.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

enum { LIMIT = 36000, SWING = 42, BRAND = 300, LASTS = 300, BEAT = 60, REFILL = 60 };
#define NEVER INT64_MAX

typedef struct {
    double power_plain, power_branded, soak;
    int64_t health, swing_at, brand_at, act_at, ends_at, beats_at;
} Fighter;

static uint64_t state;

static inline double draw(void) {
    uint64_t z = (state += 0x9E3779B97F4A7C15ull);
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ull;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBull;
    return (double)((z ^ (z >> 31)) >> 11) * 0x1p-53;
}

static inline int64_t least(int64_t a, int64_t b) { return a < b ? a : b; }

static inline void hurt(Fighter *who, int64_t points) { who->health = points >= who->health ? 0 : who->health - points; }

static void swing(const Fighter *dealer, Fighter *taker) {
    if (draw() >= 0.9) return;
    double part = draw();
    double times = part < 0.15 ? 1.8 : part < 0.70 ? 1.0 : 0.7;
    if (draw() < 0.1) times *= 1.5;
    double power = dealer->ends_at != NEVER ? dealer->power_branded : dealer->power_plain;
    double settled = power - taker->soak;
    if (settled < 1) settled = 1;
    hurt(taker, (int64_t)floor(settled * times * (1 + 0.1 * (2 * draw() - 1)) + 0.5));
}

/* Whose turn is first does not matter here: both can fell each other within a tick. */
static int fight(int64_t *ticks) {
    Fighter f[2] = {{8 + 1.6 * 25, 8 + 1.6 * 20, 0.6 * 18, 300, 0, 0, 0, NEVER, NEVER},
                    {8 + 1.6 * 24, 8 + 1.6 * 19.2, 0.6 * 20, 300, 0, 0, 0, NEVER, NEVER}};
    int64_t refill_at = REFILL, tick = 0;
    for (;;) {
        if (tick == refill_at) {
            refill_at += REFILL;
            for (int i = 0; i < 2; i++) f[i].health = least(300, f[i].health + 1);
        }
        for (int i = 0; i < 2; i++)
            if (tick == f[i].beats_at) {
                f[i].beats_at += BEAT;
                hurt(&f[i], 5);
            }
        for (int i = 0; i < 2; i++)
            if (tick == f[i].ends_at) f[i].ends_at = f[i].beats_at = NEVER;
        int brands[2] = {0, 0}, swings[2] = {0, 0};
        for (int i = 0; i < 2; i++)
            if (tick >= f[i].act_at) {
                if (tick >= f[i].brand_at) {
                    brands[i] = 1;
                    f[i].brand_at = tick + BRAND;
                } else {
                    swings[i] = 1;
                    f[i].swing_at = tick + SWING;
                }
                f[i].act_at = least(f[i].swing_at, f[i].brand_at);
                if (f[i].act_at <= tick) f[i].act_at = tick + 1;
            }
        int first = brands[0] + brands[1] + swings[0] + swings[1] > 1 && draw() < 0.5; /* a brand weakens a later swing */
        for (int k = 0; k < 2; k++) {
            int i = k ^ first;
            Fighter *taker = &f[1 - i];
            if (brands[i]) {
                if (taker->ends_at == NEVER) taker->beats_at = tick + BEAT;
                taker->ends_at = tick + LASTS;
            } else if (swings[i])
                swing(&f[i], taker);
        }
        if (f[0].health == 0 || f[1].health == 0) {
            *ticks = tick;
            return f[0].health ? 0 : f[1].health ? 1 : 2;
        }
        if (tick >= LIMIT) {
            *ticks = tick;
            return 3;
        }
        int64_t due = least(refill_at, LIMIT);
        for (int i = 0; i < 2; i++) due = least(due, least(f[i].act_at, least(f[i].ends_at, f[i].beats_at)));
        tick = due;
    }
}

int main(int count, char **words) {
    int64_t fights = count > 1 ? atoll(words[1]) : 1000000, outcomes[4] = {0}, ticks, total = 0;
    state = count > 2 ? strtoull(words[2], NULL, 10) : 7;
    struct timespec begun, ended;
    clock_gettime(CLOCK_MONOTONIC, &begun);
    for (int64_t i = 0; i < fights; i++) {
        outcomes[fight(&ticks)]++;
        total += ticks;
    }
    clock_gettime(CLOCK_MONOTONIC, &ended);
    double seconds = (double)(ended.tv_sec - begun.tv_sec) + 1e-9 * (double)(ended.tv_nsec - begun.tv_nsec);
    printf("%lld %lld %lld %lld %lld %.6f\n", (long long)outcomes[0], (long long)outcomes[1], (long long)outcomes[2],
           (long long)outcomes[3], (long long)total, seconds);
    return 0;
}
