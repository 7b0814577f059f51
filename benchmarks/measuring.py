"""Rows of measuring: the silhouette of a large picture, and how well the heron is read from pictures."""

from __future__ import annotations

import statistics
import time

import numpy as np
from PIL import Image

from bambola.core.figure import Survey
from bambola.core.plan import make_plan
from bambola.core.plan.reading.round import measures_by_effect
from bambola.core.sight.silhouette import separate_silhouette
from bambola.demo import HERON, PICTURES, load_demo
from bambola.shipped import default_bench
from benchmarks.row import SMALLEST, Row, runs

TWELVE = (300, 400) if SMALLEST else (3000, 4000)


def silhouette() -> list[Row]:
    """Return the silhouette of a picture of twelve megapixels, plain and busy; the slower of the two."""
    rows = []
    for backdrop in ("plain", "busy")[: runs(2)]:
        with Image.open(PICTURES / f"heron-side-{backdrop}.jpg") as image:
            pixels = np.asarray(image.convert("RGB").resize(TWELVE, Image.Resampling.BICUBIC))
        found = []
        for _ in range(runs(3)):
            began = time.perf_counter()
            separate_silhouette(pixels)
            found.append(time.perf_counter() - began)
        rows.append(
            Row(
                f"silhouette of 12 megapixels, {backdrop}",
                statistics.median(found),
                "silhouette",
                "s",
            )
        )
    return rows


def guided_round() -> list[Row]:
    """Return what every measure of the heron does to the wool, as the round shows it."""
    figure = load_demo(HERON).figure
    plan = make_plan(figure, load_demo(HERON).brief, default_bench())
    measures_by_effect(figure, plan, Survey())
    began = time.perf_counter()
    measures_by_effect(figure, plan, Survey())
    return [
        Row(
            "the guided round's order",
            (time.perf_counter() - began) * 1000,
            None,
            "ms",
        )
    ]
