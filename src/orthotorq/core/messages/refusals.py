"""Sentences that refuse: of runs, and of use cases."""
from __future__ import annotations

from enum import StrEnum


class Refusal(StrEnum):
    """Codes of what a run or a use case refuses, keeps aside, or says about it."""

    NOT_A_FITTER = "not_a_fitter"
    RUN_OVER = "run_over"
    SIGNED_MEANWHILE = "signed_meanwhile"
    ANSWERED_ALREADY = "answered_already"
    ALL_ANSWERED = "all_answered"
    NOT_THE_NEXT = "not_the_next"
    NO_SUCH_FIELD = "no_such_field"
    NO_SUCH_ANSWER = "no_such_answer"
    TEXT_TOO_LONG = "text_too_long"
    SAY_WHY = "say_why"
    HELD = "held"
    PROBLEM_FORM = "problem_form"
    NOT_HELD = "not_held"
    PASSWORD_WRONG = "password_wrong"
    PULLED_SIGNS = "pulled_signs"
    SIGN_WITH_PASSWORD = "sign_with_password"
    OTHER_PERSON = "other_person"
    TOOL_FORM = "tool_form"
    SAME_TOOL = "same_tool"
    STILL_WAITING = "still_waiting"
    READING_UNIT = "reading_unit"
    READING_UNREAD = "reading_unread"
    READING_CANNOT_BE = "reading_cannot_be"
    READING_UNLIKELY = "reading_unlikely"
    READING_FORM = "reading_form"
    READING_TEXT = "reading_text"
    TORQUE_CANNOT_BE = "torque_cannot_be"
    ANGLE_CANNOT_BE = "angle_cannot_be"
    CORRECTION_FORM = "correction_form"
    CORRECTION_UNKNOWN = "correction_unknown"
    CORRECTION_MOOT = "correction_moot"
    CORRECTION_ANSWER = "correction_answer"
    REDO_FORM = "redo_form"
    REDO_FROM = "redo_from"
    PHOTO_FORM = "photo_form"
    PHOTO_WORDS = "photo_words"
    NOT_A_SUPERVISOR = "not_a_supervisor"
    SETTLE_FORM = "settle_form"
    NO_SUCH_CONFLICT = "no_such_conflict"
    SETTLED_ALREADY = "settled_already"
    TEXT_FORM = "text_form"
    NO_SUCH_DEVIATION = "no_such_deviation"
    ACCEPTED_ALREADY = "accepted_already"
    SAY_WHY_ACCEPTED = "say_why_accepted"
    SIGN_IN_A_ROLE = "sign_in_a_role"
    NOT_FINISHED = "not_finished"
    STILL_FITTED = "still_fitted"
    FITTER_SIGNED = "fitter_signed"
    FITTER_FIRST = "fitter_first"
    DEVIATIONS_OPEN = "deviations_open"
    CONFLICTS_OPEN = "conflicts_open"
    NOT_YOURS_TO_END = "not_yours_to_end"
    SAY_WHY_ENDED = "say_why_ended"
    NO_WORK_THEN = "no_work_then"
    NO_SUCH_VARIANT = "no_such_variant"
    CHOOSE_ONE = "choose_one"
    NOT_SIGNED_IN = "not_signed_in"
    NEEDS_ROLE = "needs_role"
    SIGN_IN_WRONG = "sign_in_wrong"
    SIGN_IN_TOO_MANY = "sign_in_too_many"
    NOT_FOUND = "not_found"
    BAD_TITLE = "bad_title"
    BAD_DRAFT = "bad_draft"
    DRAFT_MOVED = "draft_moved"
    STOPS_LEFT = "stops_left"
    NOTHING_CHANGED = "nothing_changed"
    CAUTIONS_LEFT = "cautions_left"
    OTHER_KIND = "other_kind"
    REASON_OF_REVISION = "reason_of_revision"
    SECOND_RELEASES = "second_releases"
    SAVED_ASIDE = "saved_aside"
    REVISION_REPLACED = "revision_replaced"
    BAD_DEVICE = "bad_device"
    BAD_HISTORY = "bad_history"
    WORDS_TOO_LONG = "words_too_long"
    NO_SUCH_TOOL = "no_such_tool"
    NO_SUCH_SERIAL = "no_such_serial"
    TOOL_BLOCKED = "tool_blocked"
    BATCH_SIZE = "batch_size"
    EVENT_FIELD = "event_field"
    EVENT_PAYLOAD = "event_payload"
    OTHER_RUN = "other_run"
    ID_USED = "id_used"
    NUMBER_MISSING = "number_missing"
    NUMBER_USED = "number_used"
    NO_SUCH_PHOTO = "no_such_photo"
    NO_SUCH_DEVICE = "no_such_device"
    NO_SUCH_FAULT = "no_such_fault"
    NO_SUCH_PULL = "no_such_pull"
    STEP_NOT_MEASURED = "step_not_measured"
    STEP_NOT_OPEN = "step_not_open"
    RAW_TOO_LARGE = "raw_too_large"
    RAW_NO_TEXT = "raw_no_text"
    RAW_NOT_READ = "raw_not_read"
    STREAMS_FULL = "streams_full"
    TO_BE_RECORDED = "to_be_recorded"
    READINGS_COLUMN = "readings_column"
    READINGS_NEED = "readings_need"
    READINGS_RUN = "readings_run"
    READINGS_UNIT = "readings_unit"
    READINGS_NO_RUN = "readings_no_run"
    READINGS_NO_BOLT = "readings_no_bolt"
    READINGS_EMPTY = "readings_empty"
    READINGS_MIXED = "readings_mixed"
    READINGS_CANNOT_BE = "readings_cannot_be"
    READINGS_UNKNOWN_RUN = "readings_unknown_run"
    READINGS_UNKNOWN_BOLT = "readings_unknown_bolt"
    READINGS_SEVERAL_BOLTS = "readings_several_bolts"
    READINGS_TIME = "readings_time"
    READINGS_REPEATED = "readings_repeated"
    READINGS_TWICE = "readings_twice"
    READINGS_FILE = "readings_file"
    RECORD_FILE = "record_file"
    RECORD_CHAIN = "record_chain"
    LEASE_LOST = "lease_lost"
    KEPT_ALREADY = "kept_already"
    PICTURE_TOO_LARGE = "picture_too_large"
    NO_PICTURE = "no_picture"
    OWN_KINDS = "own_kinds"
    BAD_NAME = "bad_name"
    SHIPPED_NAME = "shipped_name"
    TAG_FORM = "tag_form"
    NAME_FORM = "name_form"
    KIND_OF_JOINT = "kind_of_joint"
    TAG_TAKEN = "tag_taken"
    OTHER_DEVICE = "other_device"
    PASSWORD_LENGTH = "password_length"
    ARCHIVE_TOO_MUCH = "archive_too_much"
    PIN_FORM = "pin_form"
    PIN_EASY = "pin_easy"
    PIN_WRONG = "pin_wrong"
    CODE_NEEDED = "code_needed"
    CODE_WRONG = "code_wrong"
    CODES_ON = "codes_on"
    NOT_KNOWN_HERE = "not_known_here"
    SIGN_ON_FAILED = "sign_on_failed"
    PASSWORD_COMMON = "password_common"
    PASSWORD_NAME = "password_name"
    WHICH_ROLES = "which_roles"
    LOGIN_FORM = "login_form"
    LOGIN_TAKEN = "login_taken"
    LAST_ADMINISTRATOR = "last_administrator"
    LINK_USED = "link_used"
    SIDE_DRAFTS_FULL = "side_drafts_full"
    WHICH_SITE = "which_site"
    SITE_TAKEN = "site_taken"
    RUN_ID_TAKEN = "run_id_taken"
    TAG_STAYS = "tag_stays"
    KIND_STAYS = "kind_stays"
    ZIP_EMPTY = "zip_empty"
    ZIP_TOO_MUCH = "zip_too_much"
    NO_ZIP = "no_zip"
    SEND_ZIP = "send_zip"
    JOB_OVER = "job_over"
    NO_SUCH_JOINT = "no_such_joint"
    IF_MATCH = "if_match"
    FROM_TO = "from_to"
    ONE_OF = "one_of"
    SORT_STAYS = "sort_stays"
    REASON_WANTED = "reason_wanted"
    BEYOND_RANGE = "beyond_range"
    ONLY_WRENCHES = "only_wrenches"
    REFERENCE_WANTED = "reference_wanted"
    POINTS_WANTED = "points_wanted"
    NO_ERROR_FOUND = "no_error_found"
    METER_UNIT = "meter_unit"
    METER_TAKEN = "meter_taken"
    METER_READING = "meter_reading"
    METER_FUTURE = "meter_future"
    METER_LATER = "meter_later"
    TIME_FORM = "time_form"
    ENTRY_KIND = "entry_kind"
    READING_STRUCK = "reading_struck"
    SAY_WHAT = "say_what"
    REGISTER_COLUMNS = "register_columns"
    REGISTER_EMPTY = "register_empty"
    REGISTER_ROWS = "register_rows"
    REGISTER_KIND = "register_kind"
    REGISTER_WRONG = "register_wrong"
    NOTHING_TOUCHED = "nothing_touched"


TEXTS: dict[Refusal, str] = {
    Refusal.NOT_A_FITTER: "Only a fitter or a supervisor answers the steps of a run.",
    Refusal.RUN_OVER: "This run is {status}: nothing in it can change any more. A note can still be added.",
    Refusal.SIGNED_MEANWHILE: "The run was signed off meanwhile; this is kept, but moves nothing.",
    Refusal.ANSWERED_ALREADY: "This step was already answered by {person}; this answer is kept, but moves nothing.",
    Refusal.ALL_ANSWERED: "All steps of this run are answered.",
    Refusal.NOT_THE_NEXT: "This is not the next step: the run stands at {step}.",
    Refusal.NO_SUCH_FIELD: "An answer has no field “{field}”.",
    Refusal.NO_SUCH_ANSWER: "“{answer}” is no answer to this step; it takes {answers}.",
    Refusal.TEXT_TOO_LONG: "A {field} is text of at most {most} characters.",
    Refusal.SAY_WHY: "Say why.",
    Refusal.HELD: "The run is stopped: {text}. Say what was done about it first.",
    Refusal.PROBLEM_FORM: "A problem is text of 1 to {most} characters, with what it is about: unsafe, wrench or other.",
    Refusal.PASSWORD_WRONG: "This is not your password or PIN. Nothing was signed or changed.",
    Refusal.PULLED_SIGNS: "{person} pulled bolts in this run: another supervisor signs it.",
    Refusal.SIGN_WITH_PASSWORD: "A signature is given at the end of the run, with the password.",
    Refusal.OTHER_PERSON: "This was tapped by somebody else, and is sent only while that person is signed in.",
    Refusal.NOT_HELD: "Nothing is stopped by this problem, or it was settled already.",
    Refusal.TOOL_FORM: "A wrench is changed with the tool of the plan, the serial of the new one, why, and how it was checked.",
    Refusal.SAME_TOOL: "{serial} is the wrench in hand already.",
    Refusal.STILL_WAITING: "{minutes} min are left to wait. To go on before, skip it with a reason.",
    Refusal.READING_UNIT: "Write the reading with its unit, for example {example}.",
    Refusal.READING_UNREAD: "{reason}",
    Refusal.READING_CANNOT_BE: "{value} cannot be: a reading here is like {example}.",
    Refusal.READING_UNLIKELY: "{value} is far from what this can be ({usual}). Look again, then say that it is so.",
    Refusal.READING_FORM: "A reading has a torque, an angle or both, and belongs to a pull.",
    Refusal.READING_TEXT: "The {name} reading is text with a unit.",
    Refusal.TORQUE_CANNOT_BE: "{value} cannot be: this pass asks for {torque} N·m.",
    Refusal.ANGLE_CANNOT_BE: "{value} cannot be: expected 0 to {most} turns.",
    Refusal.CORRECTION_FORM: "A correction names the event it voids and, if there is one, the right answer.",
    Refusal.CORRECTION_UNKNOWN: "The answer to be corrected is not in this run.",
    Refusal.CORRECTION_MOOT: "This answer no longer counts in the run as it stands; there is nothing to correct.",
    Refusal.CORRECTION_ANSWER: "The right answer must be one that this step takes.",
    Refusal.REDO_FORM: "Doing a stage again names the stage and says why.",
    Refusal.REDO_FROM: "A stage is done again from the step where the run stands.",
    Refusal.PHOTO_FORM: "A photo is kept first and then named by its id.",
    Refusal.PHOTO_WORDS: "Words of at most {most} characters.",
    Refusal.NOT_A_SUPERVISOR: "Only a supervisor {does}.",
    Refusal.SETTLE_FORM: "Settling names the event, whether it is taken, and why.",
    Refusal.NO_SUCH_CONFLICT: "This run has no such conflict.",
    Refusal.SETTLED_ALREADY: "This conflict is already settled.",
    Refusal.TEXT_FORM: "Write 1 to {most} characters.",
    Refusal.NO_SUCH_DEVIATION: "This run has no such deviation.",
    Refusal.ACCEPTED_ALREADY: "{person} has already accepted this deviation.",
    Refusal.SAY_WHY_ACCEPTED: "Say why the deviation can be accepted.",
    Refusal.SIGN_IN_A_ROLE: "One signs as fitter or supervisor, in a role one has.",
    Refusal.NOT_FINISHED: "The run is not finished: steps are still without an answer.",
    Refusal.STILL_FITTED: "Still fitted: {what}. Take it out first.",
    Refusal.FITTER_SIGNED: "The fitter has already signed.",
    Refusal.FITTER_FIRST: "The fitter signs first.",
    Refusal.DEVIATIONS_OPEN: "{count} not accepted yet; the first: {first}",
    Refusal.CONFLICTS_OPEN: "{count} not settled yet; the first is at {step}.",
    Refusal.NOT_YOURS_TO_END: "Only a fitter or a supervisor ends a run.",
    Refusal.SAY_WHY_ENDED: "Say why the run is ended before its last step.",
    Refusal.NO_WORK_THEN: "This plan has no work for the occasion “{occasion}”: at the most it makes safe.",
    Refusal.NO_SUCH_VARIANT: "“{variant}” is not a variant of this plan.",
    Refusal.CHOOSE_ONE: "Choose one: {names}.",
    Refusal.NOT_SIGNED_IN: "Sign in first.",
    Refusal.NEEDS_ROLE: "This needs the role {roles}; you have {mine}.",
    Refusal.SIGN_IN_WRONG: "Name or password is wrong.",
    Refusal.SIGN_IN_TOO_MANY: "Too many failed tries with this name. Wait {minutes} minutes.",
    Refusal.NOT_FOUND: "There is no such {what}.",
    Refusal.BAD_TITLE: "A plan needs a title of 1 to 120 characters.",
    Refusal.BAD_DRAFT: "A draft is one JSON object of at most 2 MB, of figures that are figures, nested at most 30 deep.",
    Refusal.DRAFT_MOVED: "The draft has changed since you opened it; look at it again before releasing.",
    Refusal.STOPS_LEFT: "{count} stop finding(s) keep this plan from release. The first: {first}",
    Refusal.OTHER_KIND: "That joint is {kind:a}: a plan is copied to a joint of its own kind.",
    Refusal.CAUTIONS_LEFT: "{count} caution(s) were not taken on by name. The first: {first}",
    Refusal.REASON_OF_REVISION: "Say why there is a new revision: it stands with the revision for good.",
    Refusal.SECOND_RELEASES: "Here somebody else than who changed the plan last releases it; {person} changed it last.",
    Refusal.NOTHING_CHANGED: "Nothing has changed since revision {number}.",
    Refusal.SAVED_ASIDE:
        "{person} saved this plan first (version {version}). Your version was kept aside as a side draft; nothing is lost.",
    Refusal.REVISION_REPLACED: "A newer revision has replaced this one; start from that.",
    Refusal.BAD_DEVICE: "The device needs an id of 1 to 80 characters.",
    Refusal.WORDS_TOO_LONG: "At most {most} characters.",
    Refusal.BAD_HISTORY: "The history is known or unknown.",
    Refusal.NO_SUCH_TOOL: "“{tool}” is not a tool of this plan.",
    Refusal.NO_SUCH_SERIAL: "No tool with the serial “{serial}” is registered.",
    Refusal.TOOL_BLOCKED: "{serial} is blocked: {note}. Take another one, or have a supervisor let it be used (Tools).",
    Refusal.BATCH_SIZE: "A batch has 1 to {most} events.",
    Refusal.EVENT_FIELD: "{path}: {text}",
    Refusal.EVENT_PAYLOAD: "payload: {why}",
    Refusal.OTHER_RUN: "This event belongs to another run.",
    Refusal.ID_USED: "This id was already used for another event.",
    Refusal.NUMBER_MISSING: "Number {number} of this device has not arrived yet.",
    Refusal.NUMBER_USED: "Number {number} of this device was already used.",
    Refusal.NO_SUCH_PHOTO: "This run has no such photo; send it first.",
    Refusal.NO_SUCH_DEVICE: "There is no such device.",
    Refusal.NO_SUCH_FAULT: "A simulated joint cannot have that.",
    Refusal.NO_SUCH_PULL: "This run has no such measurement at this step.",
    Refusal.STEP_NOT_MEASURED: "This step takes no reading of such a device: answer it by hand.",
    Refusal.STEP_NOT_OPEN: "That step is not open: look which one is, then measure.",
    Refusal.RAW_TOO_LARGE: "The file of a pull may have 1 MB at most.",
    Refusal.RAW_NO_TEXT: "The file of a pull is text (UTF-8); this is something else.",
    Refusal.RAW_NOT_READ: "{text}",
    Refusal.READINGS_COLUMN: "A column cannot hold “{what}”.",
    Refusal.READINGS_NEED: "Say which column holds the bolt, and which one torque or angle.",
    Refusal.READINGS_RUN: "Say which column holds the number of the run, or name one run for the whole file.",
    Refusal.READINGS_UNIT: "Say the unit of {what}: {units}.",
    Refusal.READINGS_NO_RUN: "“{cell}” is no number of a run.",
    Refusal.READINGS_NO_BOLT: "No bolt is named.",
    Refusal.READINGS_EMPTY: "Neither torque nor angle.",
    Refusal.READINGS_MIXED: "“{cell}” has another unit than its column ({unit}).",
    Refusal.READINGS_CANNOT_BE: "“{cell}” cannot be.",
    Refusal.READINGS_UNKNOWN_RUN: "There is no run {run}.",
    Refusal.READINGS_UNKNOWN_BOLT: "Run {run} has no bolt “{bolt}”{where}.",
    Refusal.READINGS_SEVERAL_BOLTS: "Run {run} has several bolts “{bolt}”: say position or group.",
    Refusal.READINGS_TIME: "“{cell}” is no time: write 2026-11-26 14:05:00.",
    Refusal.READINGS_REPEATED: "It says the same as row {row}.",
    Refusal.READINGS_TWICE: "This file was read before, on {at}.",
    Refusal.READINGS_FILE: "{text}",
    Refusal.RECORD_FILE: "This is no record of ours: {why}.",
    Refusal.RECORD_CHAIN: "The chain of this record does not hold at event {number}: it was changed after it was made.",
    Refusal.TO_BE_RECORDED: "The plan asks for it here: {what}.",
    Refusal.STREAMS_FULL: "Too many measurements run at once: try again in a few seconds.",
    Refusal.LEASE_LOST: "{person} has taken this run over on another device; this is kept, but moves nothing.",
    Refusal.KEPT_ALREADY: "Already kept.",
    Refusal.PICTURE_TOO_LARGE: "The picture is too large; send one of at most 60 megapixels.",
    Refusal.NO_PICTURE: "This is no picture that can be read; send a JPEG, PNG or WebP.",
    Refusal.OWN_KINDS: "Own entries are {kinds}.",
    Refusal.BAD_NAME: "The name has 1 to {most} characters.",
    Refusal.SHIPPED_NAME: "“{key}” is a shipped entry; give yours another name.",
    Refusal.TAG_FORM: "A tag is 1 to {most} letters, digits, dots and hyphens, such as BP-3.",
    Refusal.NAME_FORM: "{what} has 1 to {most} characters, in one line.",
    Refusal.KIND_OF_JOINT: "A kind of joint is {kinds}.",
    Refusal.OTHER_DEVICE: "This device is somebody else's in this run. Reload the page on your own device and tap again.",
    Refusal.ARCHIVE_TOO_MUCH: "This joint has more than {most} runs or {photos} MB of photos. Who looks after the server "
                              "packs it (admin joint).",
    Refusal.PIN_FORM: "A PIN has {least} to {most} digits.",
    Refusal.PIN_EASY: "That PIN is one of those that are tried first. Take digits in no order.",
    Refusal.PIN_WRONG: "That name and PIN do not go together, or this person has no work at joints.",
    Refusal.CODE_NEEDED: "Give the code that your app shows now.",
    Refusal.CODE_WRONG: "This code is not the one of now, or it was used already. Wait for the next one.",
    Refusal.CODES_ON: "One-time codes are on already. Turn them off before you begin anew.",
    Refusal.NOT_KNOWN_HERE: "“{login}” is not known here. An administrator invites people first.",
    Refusal.SIGN_ON_FAILED: "The sign-on of the plant did not say who you are. Try again, or sign in with a password.",
    Refusal.PASSWORD_LENGTH: "A password has {least} to {most} characters. Several words in a row are easy to remember.",
    Refusal.PASSWORD_COMMON: "That password is one of those that are tried first. Take several words in a row.",
    Refusal.PASSWORD_NAME: "That password is little more than your name. Take several words in a row.",
    Refusal.WHICH_ROLES: "Give at least one role of: {roles}.",
    Refusal.LOGIN_FORM: "A sign-in name has 1 to 60 of small letters, digits, dots, strokes, and begins with a letter or digit.",
    Refusal.LOGIN_TAKEN: "“{login}” is already somebody's sign-in name.",
    Refusal.LAST_ADMINISTRATOR: "Nobody would be left who looks after people. Make somebody else administrator first.",
    Refusal.LINK_USED: "This link was used, or is too old. Ask the administrator for a new one.",
    Refusal.SIDE_DRAFTS_FULL: "{most} drafts of yours are kept aside for this plan already. Open the saved version and go on "
                              "from it.",
    Refusal.WHICH_SITE: "There are several sites, so say at which one the machine stands: {sites}.",
    Refusal.SITE_TAKEN: "There is already a site called “{name}”.",
    Refusal.TAG_TAKEN: "“{tag}” is already the tag of {whose}.",
    Refusal.RUN_ID_TAKEN: "Another run has this id; begin again.",
    Refusal.TAG_STAYS: "Released plans name this machine {tag}; its tag stays.",
    Refusal.KIND_STAYS: "A plan was released for this joint under its tag and as its kind; both stay.",
    Refusal.ZIP_EMPTY: "The zip holds no .json files.",
    Refusal.ZIP_TOO_MUCH: "An import holds at most {most} files and 200 MB.",
    Refusal.NO_ZIP: "This is no zip file that can be read.",
    Refusal.SEND_ZIP: "Send a zip of plan files as application/zip.",
    Refusal.JOB_OVER: "The job is already {status}.",
    Refusal.NO_SUCH_JOINT: "“{joint}” is not a joint registered here (equipment/joint).",
    Refusal.IF_MATCH: "Send the version you started from in If-Match.",
    Refusal.FROM_TO: "Give a whole number from {low} to {high}.",
    Refusal.ONE_OF: "Choose one: {choices}.",
    Refusal.SORT_STAYS: "This is registered as {sort:a}, and stays one: its checks hang on it.",
    Refusal.REASON_WANTED: "Say why, in a sentence: it stands with the tool.",
    Refusal.BEYOND_RANGE: "{setting} lies outside the range of this wrench, {low} to {high}.",
    Refusal.ONLY_WRENCHES: "Only a wrench is checked by readings; keep the certificate of anything else with its note.",
    Refusal.REFERENCE_WANTED: "Say what it was held against: the serial of a tester, or a better wrench with its uncertainty.",
    Refusal.POINTS_WANTED: "Give at least one setting with its readings, and at most {most}.",
    Refusal.NO_ERROR_FOUND: "Only a wrench whose last check failed, with its error found, can be used with that error.",
    Refusal.METER_UNIT: "A machine counts in {units}.",
    Refusal.METER_TAKEN: "This machine has a meter in {unit} already.",
    Refusal.METER_READING: "{text}",
    Refusal.METER_FUTURE: "A reading cannot be of a time that has not come.",
    Refusal.METER_LATER: "The reading of {at} comes after this one: {text}",
    Refusal.TIME_FORM: "Write a time such as 2026-11-26 14:05.",
    Refusal.ENTRY_KIND: "What happened is one of {kinds}.",
    Refusal.READING_STRUCK: "This reading was struck out already.",
    Refusal.SAY_WHAT: "Say what, in a line.",
    Refusal.REGISTER_COLUMNS: "This file has no column {missing}. It has: {found}.",
    Refusal.REGISTER_EMPTY: "This file has no rows below its headings.",
    Refusal.REGISTER_ROWS: "A register holds at most {most} rows; this file has more.",
    Refusal.REGISTER_KIND: "A register is one of {kinds}.",
    Refusal.REGISTER_WRONG: "{count} row(s) are wrong, so nothing was changed. The first: row {row}, {text}",
    Refusal.NOTHING_TOUCHED: "No bolt that it touched needs a recheck that is not asked for already.",
}
