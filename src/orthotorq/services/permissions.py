"""The one table: use case -> roles. A use case that is not in it cannot be called."""

from __future__ import annotations

from collections.abc import Callable
from typing import Concatenate, ParamSpec, TypeVar

from ..core.messages import Refusal
from .context import Ctx
from .errors import Forbidden, NotSignedIn

P = ParamSpec("P")
R = TypeVar("R")

ANYONE = None
ROLES = ("planner", "fitter", "supervisor", "administrator")
ALL = frozenset(ROLES)

TABLE: dict[str, frozenset[str] | None] = {
    "accounts.sign_in": ANYONE,
    "accounts.session_info": ANYONE,
    "accounts.read_invitation": ANYONE,
    "accounts.accept_invitation": ANYONE,
    "accounts.sign_in_elsewhere": ANYONE,
    "accounts.note_fresh_sign_on": ALL,
    "accounts.change_password": ALL,
    "accounts.own_factors": ALL,
    "accounts.set_pin": ALL,
    "accounts.begin_codes": ALL,
    "accounts.confirm_codes": ALL,
    "accounts.end_codes": ALL,
    # these ask for an open session by themselves, which may be locked
    "accounts.list_here": ANYONE,
    "accounts.hand_over": ANYONE,
    "accounts.list_sessions": ALL,
    "accounts.end_session": ALL,
    "accounts.list_people": frozenset({"administrator"}),
    "accounts.invite": frozenset({"administrator"}),
    "accounts.change_person": frozenset({"administrator"}),
    "accounts.reset_password": frozenset({"administrator"}),
    "accounts.list_events": frozenset({"administrator"}),
    "registers.list_equipment": ALL,
    "registers.list_sites": ALL,
    "registers.rename_site": frozenset({"planner", "administrator"}),
    "registers.joint_detail": ALL,
    "registers.register_equipment": frozenset({"planner", "administrator"}),
    "registers.change_equipment": frozenset({"planner", "administrator"}),
    "registers.register_joint": frozenset({"planner", "administrator"}),
    "registers.change_joint": frozenset({"planner", "administrator"}),
    "toolroom.list_tools": ALL,
    "toolroom.tool_sorts": ALL,
    "toolroom.tool_detail": ALL,
    "toolroom.register_tool": frozenset({"planner", "supervisor", "administrator"}),
    "toolroom.change_tool": frozenset({"planner", "supervisor", "administrator"}),
    "toolroom.block_tool": frozenset({"fitter", "planner", "supervisor"}),
    "toolroom.check_tool": frozenset({"planner", "supervisor"}),
    "toolroom.read_tester": frozenset({"planner", "supervisor"}),
    "toolroom.use_with_error": frozenset({"supervisor"}),
    "toolroom.allow_tool": frozenset({"supervisor"}),
    "toolroom.touched": ALL,
    "toolroom.recheck_touched": frozenset({"planner", "supervisor"}),
    "rechecking.machine": ALL,
    "rechecking.add_meter": frozenset({"planner", "supervisor", "administrator"}),
    "rechecking.add_reading": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.correct_reading": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.strike_reading": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.send_readings": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.list_dues": ALL,
    "rechecking.say_happened": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.joint_history": ALL,
    "rechecking.note_opened": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.note_replaced": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.note_not_safe": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.use_as_is": frozenset({"supervisor"}),
    "rechecking.joint_condition": ALL,
    "rechecking.condition_tag": ALL,
    "rechecking.add_task": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.finish_task": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.list_tasks": ALL,
    "rechecking.add_note": frozenset({"planner", "fitter", "supervisor"}),
    "rechecking.shift": ALL,
    "rechecking.day_sheet": ALL,
    "rechecking.calendar_link": ALL,
    "rechecking.calendar_feed": ANYONE,
    "reference.list_lessons": ALL,
    "reference.look_anew": frozenset({"planner", "supervisor"}),
    "registers.search": ALL,
    "registers.labels": ALL,
    "registers.export_register": ALL,
    "registers.look_at_register": frozenset({"planner", "administrator"}),
    "registers.read_register_job": frozenset({"planner", "administrator"}),
    "registers.import_register": frozenset({"planner", "administrator"}),
    "registers.list_own_entries": ALL,
    "registers.save_own_entry": frozenset({"planner"}),
    "registers.remove_own_entry": frozenset({"planner"}),
    "registers.set_in_store": frozenset({"planner", "supervisor"}),
    "accounts.sign_out": ANYONE,
    "reference.read_tables": ALL,
    "reference.read_sheets": ALL,
    "reference.list_sums": ALL,
    "reference.plan_schema": ALL,
    "reference.record_schema": ALL,
    "planning.compute_plan": ALL,
    "planning.look_at_plan": ALL,
    "planning.edit_draft": frozenset({"planner"}),
    "planning.read_plan_file": ALL,
    "planning.explain_figure": ALL,
    "planning.read_manual": ALL,
    "planning.read_custom_sequence": ALL,
    "planning.answer_sum": ALL,
    "planning.other_lubricants": ALL,
    "planning.compare_orders": ALL,
    "planning.export_plans": ALL,
    "planning.start_import": frozenset({"planner"}),
    "planning.read_job": ALL,
    "planning.cancel_job": ALL,
    "planning.create_plan": frozenset({"planner"}),
    "planning.read_draft": ALL,
    "planning.save_draft": frozenset({"planner"}),
    "planning.list_side_drafts": ALL,
    "planning.release": frozenset({"planner"}),
    "planning.read_revision": ALL,
    "planning.list_revisions": ALL,
    "planning.compare_versions": ALL,
    "planning.take_over_part": ALL,
    "planning.copy_plan": frozenset({"planner"}),
    "planning.plans_to_copy": frozenset({"planner"}),
    "planning.put_away": frozenset({"planner"}),
    "planning.sheet_pdf": ALL,
    "planning.template_pdf": ALL,
    "running.prepare_run": ALL,
    "running.start_run": frozenset({"fitter", "supervisor"}),
    "running.list_runs": ALL,
    "running.read_run": ALL,
    "running.take_lease": frozenset({"fitter", "supervisor"}),
    "running.append_events": frozenset({"planner", "fitter", "supervisor"}),
    "running.sign_run": frozenset({"fitter", "supervisor"}),
    "running.keep_photo": frozenset({"fitter", "supervisor"}),
    "running.read_photo": ALL,
    "running.list_devices": ALL,
    "running.begin_pull": frozenset({"fitter", "supervisor"}),
    "running.keep_raw_pull": frozenset({"fitter", "supervisor"}),
    "running.stream_pull": ALL,
    "running.read_traces": ALL,
    "running.look_at_readings": frozenset({"planner", "fitter", "supervisor"}),
    "running.start_readings": frozenset({"planner", "fitter", "supervisor"}),
    "running.list_readings": ALL,
    "running.read_record_file": frozenset({"planner", "supervisor"}),
    "running.list_foreign_records": ALL,
    "running.foreign_record": ALL,
    "running.record_book": ALL,
    "running.test_tool": frozenset({"fitter", "supervisor"}),
    "running.list_suggestions": ALL,
    "running.read_record": ALL,
    "running.record_pdf": ALL,
    "running.record_file": ALL,
    "running.joint_archive": frozenset({"planner", "supervisor", "administrator"}),
    "running.record_table": ALL,
}

#: Every function marked as a use case, by name; a test compares it with the table.
REGISTRY: dict[str, Callable[..., object]] = {}


def allowed(roles: frozenset[str]) -> list[str]:
    """Use cases that these roles may call: what the browser asks before it offers something."""
    return sorted(name for name, needed in TABLE.items() if needed is None or roles & needed)


def use_case(function: Callable[Concatenate[Ctx, P], R]) -> Callable[Concatenate[Ctx, P], R]:
    """Mark a use case: its name is `area.function`, and calling it asks the table first."""
    name = f"{function.__module__.split('.')[2]}.{function.__name__}"

    def guarded(ctx: Ctx, /, *args: P.args, **kwargs: P.kwargs) -> R:
        roles = TABLE[name]
        if roles is not None:
            if ctx.actor is None:
                raise NotSignedIn(Refusal.NOT_SIGNED_IN)
            if not ctx.actor.roles & roles:
                raise Forbidden(
                    Refusal.NEEDS_ROLE,
                    roles=" or ".join(sorted(roles)),
                    mine=", ".join(sorted(ctx.actor.roles)) or "none",
                )
        return function(ctx, *args, **kwargs)

    guarded.__doc__ = function.__doc__
    guarded.__name__ = function.__name__
    REGISTRY[name] = guarded
    return guarded
