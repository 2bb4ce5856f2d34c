"""A wrench that is offered is taken: at the start of a run and in the middle of it, by the one
rule that binds it."""

from __future__ import annotations

from itertools import product

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from orthotorq.core.errors import Impossible
from orthotorq.services.running.prepare import prepare_run
from orthotorq.services.running.queries import read_run
from orthotorq.services.running.start import Choices, start_run
from orthotorq.store.models import Revision
from tests.services.test_run_end import Yard

ANCHORS = "Tighten the anchor row of the rail stop"


@pytest.fixture
def yard(session: Session) -> Yard:
    return Yard(session)


def test_every_wrench_that_is_offered_at_the_start_is_taken(yard: Yard) -> None:
    offered = 0
    for revision in yard.session.scalars(
        select(Revision).where(Revision.status == "released")
    ).all():
        for occasion in [o.value for o in prepare_run(yard.ctx("tam"), revision.id).occasions]:
            view = prepare_run(yard.ctx("tam"), revision.id, occasion)
            rows = [[(t.id, o.serial) for o in t.offers if o.good] for t in view.tools]
            for tools in list(product(*rows))[:6] if all(rows) else []:
                if len({serial for _, serial in tools}) < len(tools):
                    continue
                with yard.session.begin_nested() as kept:
                    start_run(
                        yard.ctx("tam"),
                        revision.id,
                        Choices(
                            "tablet",
                            occasion=view.occasion,
                            tools=tuple(tools),
                            variants=tuple(c.taken for c in view.choices),
                        ),
                    )
                    kept.rollback()
                offered += 1
    assert offered > 10


def test_one_that_does_not_reach_is_named_with_the_reason_and_is_refused(yard: Yard) -> None:
    revision = yard.revision("Close the channel cover")
    needed = prepare_run(yard.ctx("tam"), revision.id).tools[0]
    short = next(words for words in needed.blocked if "cannot be set to" in words)
    serial = short.split()[0]
    assert serial not in [o.serial for o in needed.offers]
    with pytest.raises(Impossible, match="cannot be set to"):
        start_run(yard.ctx("tam"), revision.id, Choices("tablet", tools=((needed.id, serial),)))


def test_in_a_run_only_what_is_still_to_do_decides(yard: Yard) -> None:
    revision = yard.revision("Close the channel cover")
    run = yard.run("Close the channel cover", count=0)
    reach = {
        o.serial
        for t in prepare_run(yard.ctx("tam"), revision.id, "", (), run).tools
        for o in t.offers
    }
    while (step := read_run(yard.ctx("tam"), run).state.instruction) is not None and "100" not in (
        step.pass_name or ""
    ):
        yard.answer_usually(run, step)
    assert step is not None
    later = {
        o.serial
        for t in prepare_run(yard.ctx("tam"), revision.id, "", (), run).tools
        for o in t.offers
    }
    # a wrench whose scale begins above the first passes is good for the full torque
    assert reach < later
