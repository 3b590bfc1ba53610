"""A reliability diagram: how often claims held, against what they claimed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image, ImageDraw, ImageFont

SIDE, MARGIN, BAR = 560, 70, 90
INK, SOFT, LINE, MARK = (38, 44, 52), (120, 126, 132), (214, 216, 212), (168, 72, 40)
Array = np.ndarray[Any, Any]


def draw(chance: Array, true: Array, bins: Array, path: Path) -> None:
    """Draw claims by bin, the ideal diagonal, and how many claims each bin holds.

    Parameters
    ----------
    chance : ndarray, shape (n,)
        Claimed probabilities. [-]
    true : bool array, shape (n,)
        Whether each held.
    bins : ndarray
        Edges of the bins.
    path : Path
        Of the PNG.
    """
    image = Image.new("RGB", (SIDE + 2 * MARGIN, SIDE + 2 * MARGIN + BAR), (250, 250, 247))
    pen = ImageDraw.Draw(image)
    font = ImageFont.load_default(15)

    def at(x: float, y: float) -> tuple[float, float]:
        return MARGIN + x * SIDE, MARGIN + (1 - y) * SIDE

    for tick in np.linspace(0, 1, 6):
        pen.line([at(tick, 0), at(tick, 1)], fill=LINE)
        pen.line([at(0, tick), at(1, tick)], fill=LINE)
        pen.text((at(tick, 0)[0] - 10, at(0, 0)[1] + 6), f"{tick:.1f}", INK, font)
        pen.text((MARGIN - 34, at(0, tick)[1] - 9), f"{tick:.1f}", INK, font)
    pen.line([at(0, 0), at(1, 1)], fill=SOFT, width=2)
    place = np.clip(np.digitize(chance, bins) - 1, 0, len(bins) - 2)
    counts = np.array([(place == index).sum() for index in range(len(bins) - 1)])
    points = []
    base = SIDE + 2 * MARGIN + BAR - 18
    for index, count in enumerate(counts):
        if not count:
            continue
        here = place == index
        claimed, held = chance[here].mean(), true[here].mean()
        error = 1.96 * np.sqrt(max(held * (1 - held), 1e-9) / count)
        low, high = at(claimed, max(held - error, 0)), at(claimed, min(held + error, 1))
        pen.line([low, high], fill=MARK, width=2)
        points.append(at(claimed, held))
        tall = 60 * np.log1p(count) / np.log1p(counts.max())
        left, right = at(bins[index], 0)[0] + 2, at(bins[index + 1], 0)[0] - 2
        pen.rectangle([left, base - tall, right, base], fill=LINE)
        pen.text((left, base - tall - 17), str(count), SOFT, ImageFont.load_default(11))
    pen.line(points, fill=MARK, width=2)
    for x, y in points:
        pen.ellipse([x - 5, y - 5, x + 5, y + 5], fill=MARK)
    pen.text((MARGIN, 24), "How often a claim held true, against what it claimed", INK, font)
    pen.text((MARGIN, 44), f"{len(chance)} claims; bars: how many in each bin", SOFT, font)
    pen.text((MARGIN + SIDE - 140, MARGIN + SIDE + 26), "claimed probability", SOFT, font)
    path.parent.mkdir(parents=True, exist_ok=True)
    image.save(path, optimize=True)
