"""Rulebooks, sweeps and both cores: the dry run's comparison beside a run, a sweep beside single checks, one run beside
one over two cores."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from checks import DEMO, demo_plan

from handrail.core.checking import sweep
from handrail.core.checking.connection import _judged, check
from handrail.core.checking.coverage import Stands, after, compare, coverage
from handrail.core.rulebook import read_rulebook
from handrail.core.rulebook.yaml import load

EXAMPLE = Path(__file__).parent.parent / "docs/examples/sweep.yaml"
VALUES = [{"rows": "2 .. 6"}, {"plate_thickness": "1/4 .. 5/8 in by 1/16 in"}, {"pitch": "2-1/2 .. 4 in by 1/2 in"},
          {"edge_distance": "1-1/2 .. 2-3/8 in by 1/8 in"}]  # fmt: skip
Best = Callable[..., float]


def figures(best: Best) -> list[tuple[str, float, float, str]]:
    """Rows of the bench."""
    return [*_dry_run(best), *_sweep(best), *_cores(best)]


def _dry_run(best: Best) -> list[tuple[str, float, float, str]]:
    plan = demo_plan()
    outcomes = plan.work()
    kept: dict[str, Stands] = {a.connection.id: after(a, outcomes.get(k)) for k, a in enumerate(plan.assigned)}
    text = (DEMO / "rulebook.yaml").read_text().replace("supported.depth: 17 .. 27 in", "supported.depth: 17 .. 20 in")

    def dry() -> None:
        then = plan.with_(rulebook=read_rulebook(text))
        coverage(then)
        assert compare(plan, then, kept).touched < 100

    run = best(lambda: demo_plan().work(), 2)
    return [
        ("dry run and comparison of one changed rule over a run of the whole demo", best(dry, 2) / run, 0.5, "time")
    ]


def _sweep(best: Best) -> list[tuple[str, float, float, str]]:
    data = load(EXAMPLE.read_text()) | {"sweep": {"values": VALUES}}
    given, asked = sweep.read_sweep(data)

    def singly() -> None:
        _judged.cache_clear()
        for rung in asked.rungs[:200]:
            check(
                given.standard,
                given.situation,
                given.standard.complete(given.situation, given.sizes | rung),
                given.code,
                given.actions,
            )

    whole = best(
        lambda: sweep.run(given.standard, given.situation, given.sizes, given.code, given.actions, asked, 2), 2
    )
    alone = best(singly, 2) * len(asked.rungs) / 200
    return [
        (
            f"a sweep of {len(asked.rungs)} candidates over two cores, over single checks of them",
            whole / alone,
            1.0,
            "time",
        )
    ]


def _cores(best: Best) -> list[tuple[str, float, float, str]]:
    def run(cores: int) -> float:
        plan = demo_plan().with_(cores=cores)
        _ = plan.acting.all, plan.families()
        return best(plan.work, 2)

    return [("the whole demo over two cores, over one", run(2) / run(1), 0.8, "time")]
