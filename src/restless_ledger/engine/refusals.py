"""What stands against what a script asks a unit to do, by number."""

from __future__ import annotations

(
    NOTHING_AGAINST,
    IS_DOWN,
    IS_BUSY,
    IS_COOLING_DOWN,
    IS_TOO_DEAR,
    IS_SLIDING,
    IS_BARRED,
    IS_NOT_MET,
    IS_UP,
    IS_NO_TARGET,
    IS_TARGET_DOWN,
    IS_TARGET_UP,
    IS_OUT_OF_REACH,
    IS_TOO_NEAR,
    IS_OUT_OF_SIGHT,
    IS_HIDDEN,
    IS_ELSEWHERE,
    IS_TARGET_ELSEWHERE,
) = range(18)
