"""The Bench's sections in work order, each with its telling line and its mark; made of a plan as
typed, right or wrong."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from typing import Any, Literal

from ..forms.as_typed import Raw, listed, mapping, mappings, words
from ..forms.base import Out
from ..forms.errors import FieldError
from ..forms.result import FindingOut, RecheckOut, Result
from ..forms.stage import StageOut
from ..kinds.stage_kind import OCCASIONS
from ..kinds.stage_registry import STAGE_KINDS
from ..units import show
from .finding_location import field_of
from .findings import family_of

_JOINT = re.compile(r"groups/\d+/(layout|fastener/(thread|face|head)|into|stack)|positions")


class Section(Out):
    """One section: its key, what it is about (kind, place in the document, id), title, telling
    line, worst mark."""

    key: str
    kind: Literal["joint", "like", "figure", "tool", "stage", "back"]
    index: int
    id: str
    title: str
    line: str
    mark: Literal["good", "caution", "stop"] = "good"


class Mended(Out):
    """Where a finding is mended: the section, and the field by its place in the document; both may
    be nothing."""

    section: str
    field: str


def outline(raw: Any, result: Result | None, errors: Iterable[FieldError] = ()) -> list[Section]:
    """Sections of a document with its result, where it has one, and its errors."""
    if not isinstance(raw, dict):
        return []
    sections = [
        *_groups(raw, result),
        *_stages(raw, result),
        Section(
            key="back",
            kind="back",
            index=0,
            id="",
            title="Recheck interval",
            line="; ".join(map(_recheck_line, result.rechecks))
            if result and result.rechecks
            else "no recheck planned",
        ),
    ]
    worst: dict[str, str] = {}
    for finding in result.findings if result else []:
        if finding.waived is None and finding.severity != "note":
            for key in _of_finding(finding, sections):
                worst[key] = "stop" if "stop" in (finding.severity, worst.get(key)) else "caution"
    for error in errors:
        worst[_of_error(error.pointer(), raw, sections)] = "stop"
    for section in sections:
        section.mark = worst.get(section.key, "good")  # type: ignore[assignment]
    return sections


def _layout_line(layout: Raw, count: int, thread: object) -> str:
    """How many bolts of which thread stand where."""
    kind = layout.get("kind")
    if kind == "circle":
        return f"{layout.get('count')} × {thread} on Ø {layout.get('diameter')}"
    if kind == "row":
        return f"{layout.get('count')} × {thread} in a row, {layout.get('pitch')} apart"
    if kind == "grid":
        edge = ", perimeter only" if layout.get("perimeter") else ""
        return f"{count} × {thread} in {layout.get('rows')} rows of {layout.get('columns')}{edge}"
    return f"1 × {thread}" if count == 1 else f"{count} × {thread} at free points"


def _groups(raw: Raw, result: Result | None) -> Iterator[Section]:
    groups, outs = mappings(raw.get("groups")), {g.id: g for g in result.groups} if result else {}
    many, positions = (
        len([g for g in groups if "like" not in g]) > 1,
        len(mappings(raw.get("positions"))),
    )
    for i, group in enumerate(groups):
        name, out = str(group.get("id")), outs.get(str(group.get("id")))
        if "like" in group:
            layout = mapping(group.get("layout"))
            thread = out.thread.designation if out else mapping(group.get("fastener")).get("thread")
            yield Section(
                key=f"joint-{name}",
                kind="like",
                index=i,
                id=name,
                title=f"Variant: {group.get('name')}",
                line=_layout_line(layout, len(out.places) if out else 0, thread),
            )
            continue
        layout, fastener = mapping(group.get("layout")), mapping(group.get("fastener"))
        count = len(out.places) if out else len(listed(layout.get("points")))
        where = _layout_line(layout, count, fastener.get("thread"))
        yield Section(
            key=f"joint-{name}",
            kind="joint",
            index=i,
            id=name,
            title=f"Joint: {group.get('name')}" if many else "Joint",
            line=where + (f", {positions} positions" if positions and not many else ""),
        )
        head, line = "Torque target", "no torque: snug or by hand"
        if result is None:
            line = "not computed"
        if out is not None and out.target is not None and out.preload is not None:
            angle = f" + {show(out.target.angle_deg, 3)}°" if out.target.angle_deg else ""
            figure = f"{out.target.set_torque_Nm:.0f} N·m{angle}"
            if out.target.force_N is not None:
                head, figure = "Clamp load target", "stretched"
            line = (
                f"{figure}: {show(out.preload.typical_N / 1e3, 3)}"
                f" kN, up to {show(out.preload.high_N / 1e3, 3)} kN"
            )
        yield Section(
            key=f"figure-{name}",
            kind="figure",
            index=i,
            id=name,
            title=f"{head}: {group.get('name')}" if many else head,
            line=line,
        )


def _tools(raw: Raw) -> Iterator[Section]:
    for name, tool in mapping(raw.get("tools")).items():
        if isinstance(tool, dict):
            low, high = (*listed(tool.get("range")), "?", "?")[:2]
            length = f", {tool['length']}" if tool.get("length") else ""
            yield Section(
                key=f"tool-{name}",
                kind="tool",
                index=0,
                id=str(name),
                title="Tools",
                line=f"{tool.get('name') or tool.get('kind')}, {low} to {high}{length}",
            )


def _stages(raw: Raw, result: Result | None) -> Iterator[Section]:
    outs, tools = {s.id: s for s in result.stages} if result else {}, False
    for i, stage in enumerate(mappings(raw.get("stages"))):
        if stage.get("kind") == "tighten" and not tools:
            tools = True
            yield from _tools(raw)
        name, kind = str(stage.get("id")), STAGE_KINDS.get(str(stage.get("kind")))
        title = stage.get("title") or (kind.word if kind else str(stage.get("kind")))
        yield Section(
            key=f"stage-{name}",
            kind="stage",
            index=i,
            id=name,
            title=str(title),
            line=_stage_line(stage, outs.get(name)),
        )
    if not tools:
        yield from _tools(raw)


def _stage_line(stage: Raw, out: StageOut | None) -> str:
    kind, on = STAGE_KINDS.get(str(stage.get("kind"))), words(stage.get("in")) or ["install"]
    when = "" if "install" in on else f"{', '.join(OCCASIONS.get(o, o).lower() for o in on)}: "
    text = kind.line(stage) if kind else ""
    settings = [p.settings[0].text for p in out.passes if p.settings] if out else []
    if settings and " · " in text:
        what, _, condition = text.rpartition(" · ")
        text = f"{what} → {settings[-1]} · {condition}"
    return when + text


def _recheck_line(one: RecheckOut) -> str:
    at = f"at {', '.join(show(a, 4) for a in one.at)} {one.meter}" if one.at else ""
    every = f"{', then ' if at else ''}every {show(one.every, 4)} {one.meter}" if one.every else ""
    season = f"every year from {one.season}" if one.season else ""
    return "; ".join(
        part for part in (at + every, season, f"after {one.after}" if one.after else "") if part
    )


def mended_in(finding: FindingOut, raw: Raw, sections: list[Section]) -> Mended:
    """Where a finding is mended; it says nothing where it is about the whole plan."""
    field = field_of(finding.code, finding.where, raw)
    if field == "stages":
        return Mended(section="", field=field)
    found = _of_error(field, raw, sections) if field else ""
    return Mended(section=found or next(iter(_of_finding(finding, sections)), ""), field=field)


def fields_of_limits(result: Result, raw: Raw, sections: list[Section]) -> dict[str, Mended]:
    """By `group/limit` the field that sets a limit."""
    places = {str(g.get("id")): i for i, g in enumerate(mappings(raw.get("groups")))}
    sources = {str(s.get("id")): i for i, s in enumerate(mappings(raw.get("sources")))}
    out = {}
    for group in result.groups:
        for limit in group.limits:
            kind, _, rest = limit.input.partition("/")
            name, _, inner = rest.partition("/")
            number = {"groups": places, "sources": sources}.get(kind, {}).get(name, name)
            field = "/".join(part for part in (kind, str(number), inner) if part)
            section = f"figure-{group.id}" if kind == "sources" else _of_error(field, raw, sections)
            tools = [s.key for s in sections if s.kind == "tool"]
            if kind == "tools" and section not in tools:
                section = tools[0] if tools else ""
            out[f"{group.id}/{limit.id}"] = Mended(section=section, field=field)
    return out


def wrong_in(errors: Iterable[FieldError], raw: Raw, sections: list[Section]) -> list[Mended]:
    """Where each wrong field stands."""
    return [
        Mended(section=_of_error(error.pointer(), raw, sections), field=error.pointer())
        for error in errors
    ]


def _of_finding(finding: FindingOut, sections: list[Section]) -> list[str]:
    """The sections a finding marks."""
    kind, _, name = finding.where.partition("/")
    if kind in ("joint", "figure", "tools", "chains") and finding.act:
        wanted = {"tools": "tool", "chains": "tool"}.get(kind, kind)
        return [s.key for s in sections if s.kind == wanted and (s.id == name or kind == "chains")][
            :1
        ] or [s.key for s in sections if s.kind == wanted][:1]
    if family_of(finding.code) == "tools":
        return [s.key for s in sections if s.kind == "tool"]
    if kind == "stages":
        return [f"stage-{name}"]
    if kind == "rechecks":
        return ["back"]
    figures = [s for s in sections if s.kind == "figure"]
    own = (
        [s.key for s in figures if s.id == name]
        if kind in ("groups", "targets")
        else [s.key for s in figures[:1]]
    )
    return own


def _of_error(path: str, raw: Raw, sections: list[Section]) -> str:
    """The section in which a wrong field stands."""
    parts = path.split("/")
    number = int(parts[1]) if len(parts) > 1 and parts[1].isdecimal() else 0
    if parts[0] == "groups":
        kind = "joint" if _JOINT.match(path) else "figure"
        return next((s.key for s in sections if s.kind == kind and s.index == number), "")
    if parts[0] == "targets" and len(parts) > 1:
        return f"figure-{parts[1]}"
    if parts[0] == "tools" and len(parts) > 1:
        return f"tool-{parts[1]}"
    if parts[0] == "chains" and len(parts) > 1:
        links = listed(mapping(raw.get("chains")).get(parts[1]))
        return f"tool-{links[0]}" if links else ""
    if parts[0] == "stages":
        return next((s.key for s in sections if s.kind == "stage" and s.index == number), "")
    wanted = {"rechecks": "back", "positions": "joint"}.get(parts[0], "figure")
    return next((s.key for s in sections if s.kind == wanted), "")
