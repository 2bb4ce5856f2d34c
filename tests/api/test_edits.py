"""A draft is edited, saved and computed in one request: one state, under one version."""

from __future__ import annotations

from typing import Any

from tests.api.test_api import first_plan


def opened(client: Any) -> tuple[Any, str, dict[str, Any]]:
    mira = client("mira")
    address = f"/api/v1/plans/{first_plan(mira)['id']}"
    return mira, address, mira.get(f"{address}/draft").json


def test_what_is_answered_is_what_is_saved_and_what_it_comes_to(client) -> None:
    mira, address, draft = opened(client)
    document = {**draft["document"], "note": "Typed"}
    done = mira.post(f"{address}/edits", {"version": draft["version"], "document": document})
    assert done.status_code == 200 and done.headers["ETag"] == f'"{done.json["version"]}"'
    assert done.json["version"] == draft["version"] + 1
    # the client has the document: only what acts changed comes back
    assert done.json["document"] is None
    assert done.json["view"] == mira.post("/api/v1/bench", document).json
    kept = mira.get(f"{address}/draft").json
    assert (kept["version"], kept["document"]["note"]) == (done.json["version"], "Typed")


def test_acts_are_done_on_what_was_typed_and_come_back_with_it(client) -> None:
    mira, address, draft = opened(client)
    document = {**draft["document"], "note": "Typed"}
    acts = [{"act": "add_stage", "params": {"kind": "note"}}]
    done = mira.post(
        f"{address}/edits", {"version": draft["version"], "document": document, "acts": acts}
    ).json
    assert done["document"]["note"] == "Typed" and done["document"]["stages"][-1]["kind"] == "note"
    assert done["opens"] == f"stage-{done['document']['stages'][-1]['id']}"
    assert mira.get(f"{address}/draft").json["document"] == done["document"]
    # without a document on the draft that is kept
    again = mira.post(f"{address}/edits", {"version": done["version"], "acts": acts}).json
    assert len(again["document"]["stages"]) == len(done["document"]["stages"]) + 1


def test_an_act_that_does_not_fit_saves_nothing(client) -> None:
    mira, address, draft = opened(client)
    document = {**draft["document"], "note": "Lost"}
    acts = [{"act": "drop_stage", "params": {"stage": "nowhere"}}]
    refused = mira.post(
        f"{address}/edits", {"version": draft["version"], "document": document, "acts": acts}
    )
    assert refused.status_code == 422 and "nowhere" in refused.text
    assert mira.get(f"{address}/draft").json["version"] == draft["version"]


def test_nothing_to_do_computes_the_draft_and_saves_nothing(client) -> None:
    mira, address, draft = opened(client)
    seen = mira.post(f"{address}/edits", {"version": draft["version"]}).json
    assert (
        seen["version"] == draft["version"]
        and seen["view"]["result"]["title"] == draft["document"]["title"]
    )
    moved = mira.post(f"{address}/edits", {"version": draft["version"] + 7})
    assert moved.status_code == 409 and "has changed" in moved.json["detail"]


def test_who_comes_second_is_kept_aside_and_who_may_not_plan_is_refused(client) -> None:
    mira, address, draft = opened(client)
    for note, status in (("First", 200), ("Second", 412)):
        document = {**draft["document"], "note": note}
        assert (
            mira.post(
                f"{address}/edits", {"version": draft["version"], "document": document}
            ).status_code
            == status
        )
    assert mira.get(f"{address}/draft").json["document"]["note"] == "First"
    assert "Second" in [
        s["document"]["note"] for s in mira.get(f"{address}/side-drafts").json["items"]
    ]
    tam = client("tam")
    assert (
        tam.post(
            f"{address}/edits", {"version": draft["version"], "document": draft["document"]}
        ).status_code
        == 403
    )
