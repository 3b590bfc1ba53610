"""From where on a modified z-score is odd, by the size of the set: normal sets, one in twenty.

python -m bench.odd [--sets 200000] [--seed 3]
"""

from __future__ import annotations

import argparse

import numpy as np

QUOTED = 3.5  # Iglewicz and Hoaglin's limit, which is meant for large sets.
ONCE_IN = 0.95
LARGEST = 24


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--sets", type=int, default=200_000)
    parser.add_argument("--seed", type=int, default=3)
    options = parser.parse_args()
    random = np.random.default_rng(options.seed)
    print("readings   limit   flagged at 3.5")
    for size in range(3, LARGEST + 1):
        values = random.standard_normal((options.sets, size))
        off = values - np.median(values, axis=1, keepdims=True)
        spread = np.median(np.abs(off), axis=1, keepdims=True)
        largest = np.abs(0.6745 * off / spread).max(axis=1)
        print(f"{size:8d} {np.quantile(largest, ONCE_IN):7.1f} {np.mean(largest > QUOTED):16.1%}")


if __name__ == "__main__":
    main()
