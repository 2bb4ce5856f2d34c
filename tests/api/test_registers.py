"""Machines and joints: registered by the planner, found by anybody, put right while nothing hangs
on them."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest

PUMP = {"tag": "BP-9", "name": "Brine pump 9", "area": "Brine field", "site": "Brine field"}
FLANGE = {"tag": "suction", "name": "Suction flange", "kind": "gasketed_cover"}
NONE = "00000000-0000-0000-0000-000000000000"
MACHINES, JOINTS = "/api/v1/equipment", "/api/v1/joints"


def errors_of(answer: Any) -> dict[str, str]:
    assert answer.status_code == 422, answer.text
    return {e["path"]: e["text"] for e in answer.json["errors"]}


def machine(planner: Any, tag: str, **more: str) -> str:
    made = planner.post(MACHINES, {**PUMP, "tag": tag, **more})
    assert made.status_code == 201, made.text
    return str(made.json["id"])


def joint(planner: Any, equipment: str, **more: str) -> str:
    made = planner.post(JOINTS, {"equipment": equipment, **FLANGE, **more})
    assert made.status_code == 201, made.text
    return str(made.json["id"])


def tags(someone: Any, find: str = "") -> list[str]:
    return [
        m["tag"] for m in someone.flask.get(MACHINES, query_string={"find": find}).json["items"]
    ]


def test_a_planner_registers_a_machine_and_its_joint_and_plans_it(client) -> None:
    mira = client("mira")
    made = machine(mira, " BP-9 ", name="  Brine pump 9 ")
    flange = joint(mira, made)
    seen = next(m for m in mira.get(MACHINES).json["items"] if m["id"] == made)
    assert (seen["tag"], seen["name"], seen["area"]) == ("BP-9", "Brine pump 9", "Brine field")
    assert [(j["name"], j["kind"], j["plans"], j["glyph"]) for j in seen["joints"]] == [
        ("Suction flange", "gasketed_cover", [], None)
    ]
    plan = mira.post("/api/v1/plans", {"joint": flange, "title": "Close the suction flange"}).json[
        "id"
    ]
    draft = mira.get(f"/api/v1/plans/{plan}/draft").json
    assert draft["document"]["joint"] == "BP-9/suction"
    refused = mira.post(
        f"/api/v1/plans/{plan}/release", {}, **{"If-Match": f'"{draft["version"]}"'}
    )
    assert refused.status_code == 409 and "not confirmed" in refused.json["detail"]
    del draft["document"]["examples"]
    saved = mira.put(
        f"/api/v1/plans/{plan}/draft",
        {"document": draft["document"]},
        **{"If-Match": f'"{draft["version"]}"'},
    )
    bench = mira.post("/api/v1/bench", draft["document"]).json
    taken = {"taken_on": [caution["id"] for caution in bench["to_take_on"]]}
    released = mira.post(
        f"/api/v1/plans/{plan}/release", taken, **{"If-Match": saved.headers["ETag"]}
    )
    assert released.status_code == 201, released.text
    assert mira.get(f"{JOINTS}/{flange}").json["summary"].startswith("12 × M20")


@pytest.mark.parametrize("tag", ["", " ", "a/b", "two words", "-x", ".", "x" * 41, "a;b", "a\nb"])
def test_a_tag_that_cannot_be_is_said_at_its_field(client, tag: str) -> None:
    assert (
        "letters, digits" in errors_of(client("mira").post(MACHINES, {**PUMP, "tag": tag}))["tag"]
    )


def test_every_wrong_field_is_said_at_once(client) -> None:
    mira = client("mira")
    assert set(errors_of(mira.post(MACHINES, {"tag": "", "name": " ", "area": "x" * 121}))) == {
        "tag",
        "name",
        "area",
        "site",
    }
    made = machine(mira, "BP-10")
    assert (
        "kind of joint"
        in errors_of(mira.post(JOINTS, {"equipment": made, **FLANGE, "kind": "door"}))["kind"]
    )
    assert errors_of(mira.post(JOINTS, {"equipment": made, **FLANGE, "kind": 7}))
    assert errors_of(mira.post(MACHINES, {"tag": "BP-11", "site": "Quay"})).keys() == {
        "name",
        "area",
    }


def test_a_tag_is_given_once(client) -> None:
    mira = client("mira")
    made = machine(mira, "BP-12")
    assert "already the tag" in errors_of(mira.post(MACHINES, {**PUMP, "tag": "BP-12"}))["tag"]
    joint(mira, made)
    assert "already the tag" in errors_of(mira.post(JOINTS, {"equipment": made, **FLANGE}))["tag"]
    second = joint(mira, made, tag="second")
    assert "already the tag" in errors_of(mira.put(f"{JOINTS}/{second}", FLANGE))["tag"]
    other = machine(mira, "BP-13")
    joint(mira, other)
    assert errors_of(mira.put(f"{MACHINES}/{other}", {**PUMP, "tag": "BP-12"}))["tag"]
    assert tags(mira, "BP-13") == ["BP-13"]


def test_a_tag_that_is_written_almost_like_another_is_asked_about(client) -> None:
    mira = client("mira")
    made = machine(mira, "BP-061")
    for path, body, near in (
        (MACHINES, {**PUMP, "tag": "bp61"}, "BP-061"),
        (MACHINES, {**PUMP, "tag": "BP_61"}, "BP-061"),
    ):
        asked = mira.post(path, body)
        assert (asked.status_code, asked.json["code"], asked.json["errors"][0]["path"]) == (
            409,
            "confirm",
            "tag",
        ), asked.text
        assert near in asked.json["detail"] and "Brine pump 9" in asked.json["detail"]
        assert tags(mira, body["tag"]) == []
    # another number is another machine, and what was confirmed is registered
    machine(mira, "BP-610")
    assert mira.post(MACHINES, {**PUMP, "tag": "bp61"}, **{"X-Confirmed": "yes"}).status_code == 201
    flange = joint(mira, made)
    assert (
        mira.post(JOINTS, {"equipment": made, **FLANGE, "tag": "SUCTION"}).json["code"] == "confirm"
    )
    second = joint(mira, made, tag="second")
    assert mira.put(f"{JOINTS}/{second}", {**FLANGE, "tag": "suc.tion"}).json["code"] == "confirm"
    # a joint keeps its own tag when its name is put right
    assert mira.put(f"{JOINTS}/{flange}", {**FLANGE, "name": "Suction cover"}).status_code == 204


def test_one_of_many_who_register_the_same_tag_at_once_has_it(client) -> None:
    people = [client("mira") for _ in range(6)]
    with ThreadPoolExecutor(6) as pool:
        answers = list(
            pool.map(lambda p: p.post(MACHINES, {**PUMP, "tag": "BP-14"}).status_code, people)
        )
    assert sorted(answers) == [201] + [422] * 5


def test_names_can_be_put_right_and_tags_until_something_was_released(client) -> None:
    mira = client("mira")
    made = machine(mira, "BP-15")
    flange = joint(mira, made)
    assert (
        mira.put(
            f"{JOINTS}/{flange}", {"tag": "drain", "name": "Drain flange", "kind": "soft_clamp"}
        ).status_code
        == 204
    )
    assert (
        mira.put(
            f"{MACHINES}/{made}", {"tag": "BP-16", "name": "Brine pump 16", "area": "Pans"}
        ).status_code
        == 204
    )
    plan = mira.post("/api/v1/plans", {"joint": flange, "title": "Draw the clamp"}).json["id"]
    assert mira.get(f"/api/v1/plans/{plan}/draft").json["document"]["joint"] == "BP-16/drain"
    assert mira.put(f"{MACHINES}/{made}", {**PUMP, "tag": "BP-17"}).status_code == 204
    assert (
        mira.put(
            f"{JOINTS}/{flange}", {"tag": "vent", "name": "Drain flange", "kind": "gasketed_cover"}
        ).status_code
        == 204
    )
    draft = mira.get(f"/api/v1/plans/{plan}/draft").json["document"]
    assert (draft["joint"], draft["joint_kind"]) == ("BP-17/vent", "gasketed_cover")
    released = mira.get(f"{MACHINES}?find=evaporator channel").json["items"][0]
    cover = released["joints"][0]
    own = {"tag": released["tag"], "name": released["name"], "area": released["area"]}
    for path, body in (
        (f"{MACHINES}/{released['id']}", {**own, "tag": "EV-9"}),
        (f"{JOINTS}/{cover['id']}", {"tag": cover["tag"], "name": cover["name"], "kind": "wheel"}),
        (f"{JOINTS}/{cover['id']}", {"tag": "vent", "name": cover["name"], "kind": cover["kind"]}),
    ):
        refused = mira.put(path, body)
        assert refused.status_code == 409
        assert "stay" in refused.json["detail"]
        assert refused.json["errors"][0]["path"] == "tag"
    assert (
        mira.put(
            f"{JOINTS}/{flange}", {"tag": "drain", "name": "Drain clamp", "kind": "soft_clamp"}
        ).status_code
        == 204
    )
    assert mira.get(f"{JOINTS}/{flange}").json["name"] == "Drain clamp"


def test_what_is_not_registered_is_not_found(client) -> None:
    for path in (MACHINES, JOINTS):
        assert client("mira").put(f"{path}/{NONE}", {**PUMP, **FLANGE}).status_code == 404


def test_a_joint_of_no_machine_is_not_found(client) -> None:
    answer = client("mira").post(JOINTS, {"equipment": NONE, **FLANGE})
    assert answer.status_code == 404


@pytest.mark.parametrize(
    ("find", "found"),
    [
        ("trolley", ["TR-3"]),
        ("tr-3", ["TR-3"]),
        ("BOILING", ["AG-2", "EV-2"]),
        ("channel cover", ["EV-2"]),
        ("%", []),
        ("_", []),
        ("nothing such", []),
    ],
)
def test_machines_are_found_by_tag_name_place_and_joint(
    client, find: str, found: list[str]
) -> None:
    assert tags(client("tam"), find) == found


@pytest.mark.parametrize(
    ("path", "query"),
    [
        (MACHINES, {"find": "a\x00b"}),
        (MACHINES, {"after": "\x00"}),
        ("/api/v1/runs", {"before": 10**30}),
        ("/api/v1/runs", {"before": "x"}),
    ],
)
def test_an_address_that_cannot_be_looked_up_is_never_a_500(
    client, path: str, query: dict[str, Any]
) -> None:
    assert client("tam").flask.get(path, query_string=query).status_code in (200, 422)


def test_machines_come_by_pages_in_the_order_of_their_tags(client) -> None:
    tam = client("tam")
    every, after = [], ""
    while True:
        page = tam.flask.get(MACHINES, query_string={"after": after, "limit": 4}).json
        every += [m["tag"] for m in page["items"]]
        if page["next"] is None:
            break
        assert len(page["items"]) == 4
        after = page["next"]
    assert every == sorted(set(every))
    assert len(every) >= 12
    assert tam.flask.get(MACHINES, query_string={"limit": 0}).status_code == 422


def test_a_name_is_one_line(client) -> None:
    mira = client("mira")
    for name in ("Pump\n} body { display: none }", "Pump\x07", "Pump\u2028two"):
        assert (
            "one line"
            in errors_of(mira.post(MACHINES, {**PUMP, "tag": "BP-77", "name": name}))["name"]
        )


def test_a_file_has_its_name_in_any_letters_and_is_kept_not_shown(client) -> None:
    mira = client("mira")
    flange = joint(mira, machine(mira, "BP-78"))
    plan = mira.post("/api/v1/plans", {"joint": flange, "title": "Zawór główny 泵"}).json["id"]
    found = mira.get(f"/api/v1/plans/{plan}/file")
    assert found.status_code == 200
    assert found.headers["Content-Disposition"].startswith(
        "attachment; filename*=UTF-8''Zaw%C3%B3r"
    )


def test_a_machine_stands_at_a_site_that_can_be_looked_at_alone_and_renamed(client) -> None:
    mira = client("mira")
    sites = {one["name"]: one for one in mira.get("/api/v1/sites").json["items"]}
    assert set(sites) == {"Brine field", "Quay", "Saltworks"}
    assert (
        "Brine field, Quay, Saltworks"
        in errors_of(mira.post(MACHINES, {**PUMP, "tag": "BP-20", "site": ""}))["site"]
    )
    asked = mira.post(MACHINES, {**PUMP, "tag": "BP-20", "site": " Pumping station "})
    assert (asked.status_code, asked.json["code"]) == (409, "confirm")
    assert asked.json["errors"][0]["path"] == "site" and "is a new site" in asked.json["detail"]
    # the one that it may have been meant to be is named
    typo = mira.post(MACHINES, {**PUMP, "tag": "BP-20", "site": "Brine feild"}).json["detail"]
    assert "close to “Brine field”" in typo
    assert set(sites) == {one["name"] for one in mira.get("/api/v1/sites").json["items"]}
    confirmed = mira.post(
        MACHINES, {**PUMP, "tag": "BP-20", "site": " Pumping station "}, **{"X-Confirmed": "yes"}
    )
    made = confirmed.json["id"]
    moved = {**PUMP, "tag": "BP-20", "site": "brine FIELD"}
    station = next(
        one for one in mira.get("/api/v1/sites").json["items"] if one["name"] == "Pumping station"
    )
    assert [m["tag"] for m in mira.get(f"{MACHINES}?site={station['id']}").json["items"]] == [
        "BP-20"
    ]
    assert mira.put(f"/api/v1/sites/{station['id']}", {"site": "Quay"}).status_code == 422
    assert errors_of(mira.put(f"/api/v1/sites/{station['id']}", {"site": "two\nlines"})).keys() == {
        "site"
    }
    assert mira.put(f"/api/v1/sites/{station['id']}", {"site": "Pump house"}).status_code == 204
    joint(mira, made)
    assert [m["tag"] for m in mira.get(f"{MACHINES}?find=pump+house").json["items"]] == ["BP-20"]
    # a site goes with its last machine, so that one that was mistyped does not stay
    assert mira.put(f"{MACHINES}/{made}", moved).status_code == 204
    assert {one["name"] for one in mira.get("/api/v1/sites").json["items"]} == set(sites)
    assert (
        client("tam").put(f"/api/v1/sites/{sites['Quay']['id']}", {"site": "Harbour"}).status_code
        == 403
    )
