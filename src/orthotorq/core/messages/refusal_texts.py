"""The sentences of refusals, each with its parameters."""

from __future__ import annotations

from .refusals import Refusal

TEXTS: dict[Refusal, str] = {
    Refusal.NOT_A_FITTER: "Only a fitter or a supervisor answers the steps of a run.",
    Refusal.RUN_OVER: (
        "This run is {status}: nothing in it can change any more. A note can still be added."
    ),
    Refusal.SIGNED_MEANWHILE: (
        "The run was signed off meanwhile; this answer is saved, but does not count."
    ),
    Refusal.ANSWERED_ALREADY: (
        "This step was already answered by {person}; this answer is saved, but does not count."
    ),
    Refusal.ALL_ANSWERED: "All steps of this run are answered.",
    Refusal.NOT_THE_NEXT: "This is not the next step: the next one is {step}.",
    Refusal.NO_SUCH_FIELD: "An answer has no field “{field}”.",
    Refusal.NO_SUCH_ANSWER: "“{answer}” is no answer to this step; it takes {answers}.",
    Refusal.TEXT_TOO_LONG: "A {field} is text of at most {most} characters.",
    Refusal.SAY_WHY: "Enter the reason.",
    Refusal.HELD: "The run is stopped: {text}. Enter first what was done about it.",
    Refusal.PROBLEM_FORM: (
        "A problem is text of 1 to {most} characters, with what it is about: unsafe, wrench or "
        "other."
    ),
    Refusal.PASSWORD_WRONG: "This is not your password or PIN. Nothing was signed or changed.",
    Refusal.PULLED_SIGNS: "{person} pulled bolts in this run: another supervisor signs it.",
    Refusal.SIGN_WITH_PASSWORD: "A signature is given at the end of the run, with the password.",
    Refusal.OTHER_PERSON: (
        "This was tapped by another person, and is sent only while that person is signed in."
    ),
    Refusal.NOT_HELD: "Nothing is stopped by this problem, or it was settled already.",
    Refusal.TOOL_FORM: (
        "A wrench is changed with the tool of the plan, the serial of the new one, why, and how "
        "it was checked."
    ),
    Refusal.SAME_TOOL: "{serial} is the wrench in hand already.",
    Refusal.STILL_WAITING: (
        "{minutes} min are left to wait. To continue before that, skip it with a reason."
    ),
    Refusal.READING_UNIT: "Write the reading with its unit, for example {example}.",
    Refusal.READING_UNREAD: "{reason}",
    Refusal.READING_CANNOT_BE: "{value} cannot be: a reading here is like {example}.",
    Refusal.READING_UNLIKELY: (
        "{value} is far from what this can be ({usual}). Compare it with the tool, then confirm it."
    ),
    Refusal.READING_FORM: "A reading has a torque, an angle or both, and belongs to a pull.",
    Refusal.READING_TEXT: "The {name} reading is text with a unit.",
    Refusal.TORQUE_CANNOT_BE: "{value} cannot be: this pass asks for {torque} N·m.",
    Refusal.ANGLE_CANNOT_BE: "{value} cannot be: expected 0 to {most} turns.",
    Refusal.CORRECTION_FORM: (
        "A correction names the event it voids and, if there is one, the right answer."
    ),
    Refusal.CORRECTION_UNKNOWN: "The answer to be corrected is not in this run.",
    Refusal.CORRECTION_MOOT: (
        "This answer no longer counts in the run; there is nothing to correct."
    ),
    Refusal.CORRECTION_ANSWER: "The right answer must be one that this step takes.",
    Refusal.REDO_FORM: "To repeat a stage, choose the stage and enter the reason.",
    Refusal.REDO_FROM: "A stage is repeated from the current step of the run.",
    Refusal.PHOTO_FORM: "A photo is saved first and then named by its id.",
    Refusal.PHOTO_WORDS: "Words of at most {most} characters.",
    Refusal.NOT_A_SUPERVISOR: "Only a supervisor {does}.",
    Refusal.SETTLE_FORM: "Settling names the event, whether it is taken, and why.",
    Refusal.NO_SUCH_CONFLICT: "This run has no such conflict.",
    Refusal.SETTLED_ALREADY: "This conflict is already settled.",
    Refusal.TEXT_FORM: "Write 1 to {most} characters.",
    Refusal.NO_SUCH_DEVIATION: "This run has no such deviation.",
    Refusal.ACCEPTED_ALREADY: "{person} has already accepted this deviation.",
    Refusal.SAY_WHY_ACCEPTED: "Enter the reason why the deviation can be accepted.",
    Refusal.SIGN_IN_A_ROLE: "One signs as fitter or supervisor, in a role one has.",
    Refusal.NOT_FINISHED: "The run is not finished: steps are still without an answer.",
    Refusal.STILL_FITTED: "Still fitted: {what}. Remove it first.",
    Refusal.FITTER_SIGNED: "The fitter has already signed.",
    Refusal.FITTER_FIRST: "The fitter signs first.",
    Refusal.DEVIATIONS_OPEN: "{count} not accepted yet; the first: {first}",
    Refusal.CONFLICTS_OPEN: "{count} not settled yet; the first is at {step}.",
    Refusal.NOT_YOURS_TO_END: "Only a fitter or a supervisor ends a run.",
    Refusal.NOT_YOURS_TO_CONTINUE: "Only a fitter or a supervisor continues a run.",
    Refusal.NOT_ENDED: "This run was not ended early: there is nothing to continue.",
    Refusal.SAY_WHY_CONTINUED: "Enter the reason to continue the run, in at most 1000 characters.",
    Refusal.CANNOT_CONTINUE: "This run cannot be continued. {why} Start with slackening.",
    Refusal.SAY_WHY_ENDED: "Enter the reason why the run is ended before its last step.",
    Refusal.NO_WORK_THEN: (
        "This plan has no work for the occasion “{occasion}”: at the most it makes safe."
    ),
    Refusal.NO_SUCH_VARIANT: "“{variant}” is not a variant of this plan.",
    Refusal.CHOOSE_ONE: "Choose one: {names}.",
    Refusal.NOT_SIGNED_IN: "Sign in first.",
    Refusal.NEEDS_ROLE: "This needs the role {roles}; you have {mine}.",
    Refusal.SIGN_IN_WRONG: "Name or password is wrong.",
    Refusal.SIGN_IN_TOO_MANY: "Too many failed tries with this name. Wait {minutes} minutes.",
    Refusal.NOT_FOUND: "There is no such {what}.",
    Refusal.BAD_TITLE: "A plan needs a title of 1 to 120 characters.",
    Refusal.BAD_DRAFT: (
        "A draft is one JSON object of at most 2 MB, of figures that are figures, nested at most "
        "30 deep."
    ),
    Refusal.DRAFT_MOVED: (
        "The draft has changed since you opened it. Review it before you release it."
    ),
    Refusal.STOPS_LEFT: "Errors that block release: {count}. The first: {first}",
    Refusal.OTHER_KIND: "That joint is {kind:a}: a plan is copied to a joint of its own kind.",
    Refusal.CAUTIONS_LEFT: "Warnings not waived by name: {count}. The first: {first}",
    Refusal.REASON_OF_REVISION: (
        "Enter the reason for the new revision: it is kept with the revision."
    ),
    Refusal.SECOND_RELEASES: (
        "Another person than the last editor has to release this plan; {person} changed it last."
    ),
    Refusal.NOTHING_CHANGED: "Nothing has changed since revision {number}.",
    Refusal.SAVED_ASIDE: (
        "{person} saved this plan first (version {version}). Your version is under Other drafts; "
        "nothing is lost."
    ),
    Refusal.REVISION_REPLACED: "A newer revision has replaced this one; start from that.",
    Refusal.BAD_DEVICE: "The device needs an id of 1 to 80 characters.",
    Refusal.WORDS_TOO_LONG: "At most {most} characters.",
    Refusal.BAD_HISTORY: "The history is known or unknown.",
    Refusal.NO_SUCH_TOOL: "“{tool}” is not a tool of this plan.",
    Refusal.NO_SUCH_SERIAL: "No tool with the serial “{serial}” is registered.",
    Refusal.TOOL_BLOCKED: (
        "{serial} is blocked: {note}. Take another one, or ask a supervisor to allow it (Tools)."
    ),
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
    Refusal.READINGS_NEED: "Choose which column holds the bolt, and which one torque or angle.",
    Refusal.READINGS_RUN: (
        "Choose which column holds the number of the run, or enter one run for the whole file."
    ),
    Refusal.READINGS_UNIT: "Choose the unit of {what}: {units}.",
    Refusal.READINGS_NO_RUN: "“{cell}” is no number of a run.",
    Refusal.READINGS_NO_BOLT: "No bolt is named.",
    Refusal.READINGS_EMPTY: "Neither torque nor angle.",
    Refusal.READINGS_MIXED: "“{cell}” has another unit than its column ({unit}).",
    Refusal.READINGS_CANNOT_BE: "“{cell}” cannot be.",
    Refusal.READINGS_UNKNOWN_RUN: "There is no run {run}.",
    Refusal.READINGS_UNKNOWN_BOLT: "Run {run} has no bolt “{bolt}”{where}.",
    Refusal.READINGS_SEVERAL_BOLTS: (
        "Run {run} has several bolts “{bolt}”: enter position or group."
    ),
    Refusal.READINGS_TIME: "“{cell}” is no time: write 2026-11-26 14:05:00.",
    Refusal.READINGS_REPEATED: "It is the same as row {row}.",
    Refusal.READINGS_TWICE: "This file was read before, on {at}.",
    Refusal.READINGS_FILE: "{text}",
    Refusal.RECORD_FILE: "This is no record of ours: {why}.",
    Refusal.RECORD_CHAIN: (
        "The chain of this record does not hold at event {number}: it was changed after it was "
        "made."
    ),
    Refusal.TO_BE_RECORDED: "The plan asks for it here: {what}.",
    Refusal.STREAMS_FULL: "Too many measurements run at once: try again in a few seconds.",
    Refusal.LEASE_LOST: (
        "{person} has taken this run over on another device; this answer is saved, but does not "
        "count."
    ),
    Refusal.KEPT_ALREADY: "Already saved.",
    Refusal.PICTURE_TOO_LARGE: "The picture is too large; send one of at most 60 megapixels.",
    Refusal.NO_PICTURE: "This is no picture that can be read; send a JPEG, PNG or WebP.",
    Refusal.OWN_KINDS: "Custom entries are {kinds}.",
    Refusal.BAD_NAME: "The name has 1 to {most} characters.",
    Refusal.SHIPPED_NAME: "“{key}” is a shipped entry; give yours another name.",
    Refusal.TAG_FORM: "A tag is 1 to {most} letters, digits, dots and hyphens, such as BP-3.",
    Refusal.NAME_FORM: "{what} has 1 to {most} characters, in one line.",
    Refusal.KIND_OF_JOINT: "A kind of joint is {kinds}.",
    Refusal.OTHER_DEVICE: (
        "This device belongs to another person in this run. Reload the page on your own device "
        "and tap again."
    ),
    Refusal.ARCHIVE_TOO_MUCH: "This joint has more than {most} runs or {photos} "
    "MB of photos. Who looks after the "
    "server "
    "packs it (admin joint).",
    Refusal.PIN_FORM: "A PIN has {least} to {most} digits.",
    Refusal.PIN_EASY: "That PIN is one of those that are tried first. Take digits in no order.",
    Refusal.PIN_WRONG: (
        "That name and PIN do not go together, or this person has no work at joints."
    ),
    Refusal.CODE_NEEDED: "Give the code that your app shows now.",
    Refusal.CODE_WRONG: (
        "This code is not the one of now, or it was used already. Wait for the next one."
    ),
    Refusal.CODES_ON: "One-time codes are on already. Turn them off before you start again.",
    Refusal.NOT_KNOWN_HERE: "The sign-on of the plant says that you are "
    "“{login}”. Nobody is registered here with "
    "that name: "
    "an administrator invites people first.",
    Refusal.SIGN_ON_FAILED: (
        "The sign-on of the plant did not say who you are. Try again, or sign in with a password."
    ),
    Refusal.PASSWORD_LENGTH: (
        "A password has {least} to {most} characters. Several words in a row are easy to remember."
    ),
    Refusal.PASSWORD_COMMON: (
        "That password is one of those that are tried first. Take several words in a row."
    ),
    Refusal.PASSWORD_NAME: (
        "That password is little more than your name. Take several words in a row."
    ),
    Refusal.WHICH_ROLES: "Give at least one role of: {roles}.",
    Refusal.LOGIN_FORM: (
        "A sign-in name has 1 to 60 small letters, digits and . _ - + @, and begins with a "
        "letter or digit."
    ),
    Refusal.LOGIN_TAKEN: "“{login}” is the sign-in name of another person.",
    Refusal.LAST_ADMINISTRATOR: (
        "No administrator would be left. Make another person administrator first."
    ),
    Refusal.LINK_USED: "This link was used, or is too old. Ask the administrator for a new one.",
    Refusal.SIDE_DRAFTS_FULL: "You have {most} other drafts of this plan already. "
    "Open the saved version and continue "
    "from it.",
    Refusal.WHICH_SITE: "There are several sites, so enter the site of the machine: {sites}.",
    Refusal.SITE_TAKEN: "There is already a site called “{name}”.",
    Refusal.TAG_TAKEN: "“{tag}” is already the tag of {whose}.",
    Refusal.RUN_ID_TAKEN: "Another run has this id; start again.",
    Refusal.TAG_STAYS: "Released plans name this machine {tag}; its tag stays.",
    Refusal.KIND_STAYS: (
        "A plan was released for this joint under its tag and as its kind; both stay."
    ),
    Refusal.ZIP_EMPTY: "The zip holds no .json files.",
    Refusal.ZIP_TOO_MUCH: "An import holds at most {most} files and 200 MB.",
    Refusal.NO_ZIP: "This is no zip file that can be read.",
    Refusal.SEND_ZIP: "Send a zip of plan files as application/zip.",
    Refusal.JOB_OVER: "The job is already {status}.",
    Refusal.NO_SUCH_JOINT: "“{joint}” is not a joint registered here (equipment/joint).",
    Refusal.IF_MATCH: "Send the version you started from in If-Match.",
    Refusal.FROM_TO: "Give a whole number from {low} to {high}.",
    Refusal.ONE_OF: "Choose one: {choices}.",
    Refusal.SORT_STAYS: (
        "This is registered as {sort:a}, and cannot become another kind: its checks belong to it."
    ),
    Refusal.REASON_WANTED: "Enter the reason, in a sentence: it is kept with the tool.",
    Refusal.BEYOND_RANGE: "{setting} is outside the range of this wrench, {low} to {high}.",
    Refusal.ONLY_WRENCHES: (
        "Only a wrench is checked by readings; keep the certificate of anything else with its note."
    ),
    Refusal.REFERENCE_WANTED: (
        "Enter the reference: the serial number of a tester, or a better wrench with its "
        "uncertainty."
    ),
    Refusal.POINTS_WANTED: "Give at least one setting with its readings, and at most {most}.",
    Refusal.NO_ERROR_FOUND: (
        "Only a wrench whose last check failed, with its error measured, can be used with "
        "correction."
    ),
    Refusal.METER_UNIT: "A machine counts in {units}.",
    Refusal.METER_TAKEN: "This machine has a meter in {unit} already.",
    Refusal.METER_READING: "{text}",
    Refusal.METER_FUTURE: "A reading cannot be of a time that has not come.",
    Refusal.METER_LATER: "The reading of {at} comes after this one: {text}",
    Refusal.TIME_FORM: "Write a time such as 2026-11-26 14:05.",
    Refusal.READING_STRUCK: "This reading was struck out already.",
    Refusal.SAY_WHAT: "Enter what, in one line.",
    Refusal.NO_SUCH_OWNER: "Choose who does it, from the list.",
    Refusal.TASK_DAY: "Enter a day from today on, at most ten years ahead.",
    Refusal.TASK_DONE: "This task is done already.",
    Refusal.NO_SUCH_POSITION: "This joint has no position “{position}”.",
    Refusal.ACCEPTANCE_END: (
        "Enter a day from tomorrow on, at most {most} days ahead: what is left longer is repaired."
    ),
    Refusal.NO_RUN_FITTED: "This joint has no run yet in which parts were fitted.",
    Refusal.NOTHING_TO_ACCEPT: "Nothing here has failed: there is nothing to accept.",
    Refusal.SECOND_RUN: "Run {run} is in progress on this joint "
    "({person}, since {since}). Continue it; "
    "or a supervisor ends it first.",
    Refusal.NOTHING_TO_TAG: (
        "This joint needs no tag: it is proven, or was moved and brought to its target."
    ),
    Refusal.METER_UNLIKELY: "Is the reading right? {gained} in {days} days; usual are {usual}.",
    Refusal.READING_NOT_YOURS: "Another person entered this reading. A supervisor can withdraw it.",
    Refusal.RUN_NOT_CLOSED: (
        "Run {run} on this joint is not closed: its answers can still be corrected. Sign it, or "
        "end it."
    ),
    Refusal.TIGHTENED_ACCEPTS: (
        "{person} worked in the run in which it failed. Another supervisor accepts it."
    ),
    Refusal.REGISTER_COLUMNS: "This file has no column {missing}. It has: {found}.",
    Refusal.REGISTER_EMPTY: "This file has no rows below its headings.",
    Refusal.REGISTER_ROWS: "A register holds at most {most} rows; this file has more.",
    Refusal.REGISTER_KIND: "A register is one of {kinds}.",
    Refusal.REGISTER_WRONG: (
        "{count} row(s) are wrong, so nothing was changed. The first: row {row}, {text}"
    ),
    Refusal.REGISTER_ASKS: "{count} row(s) need your answer first. The first: row {row}, {text}",
    Refusal.TAG_NEAR: "{near} is registered already ({name}). If {tag} "
    "is another {what}, confirm it; if not, "
    "write "
    "the tag as registered.",
    Refusal.TAG_NEAR_ROW: (
        "“{tag}” is the tag of row {row}, written differently. If it is another one, confirm it."
    ),
    Refusal.IN_HAND: "{count} files of yours are being made or read "
    "already. Nothing was changed; wait until "
    "they are "
    "done, then try again.",
    Refusal.ALL_BUSY: (
        "The server is making files for others. Nothing was changed; try again in a moment."
    ),
    Refusal.REVISION_NOT_PROVEN: "Revision {number} of “{plan}” is not as it "
    "was released ({why}). Do not work by it. "
    "Tell "
    "the administrator; a planner releases the plan again.",
    Refusal.RUN_NOT_PROVEN: "Run {number} is not as it was saved: {why}. "
    "Do not work by it. Tell the administrator, "
    "and start a new run.",
    Refusal.RECORD_UNLIKE: "Under “{what}” this record differs from "
    "its entries: it was changed. Nothing was "
    "imported.",
    Refusal.RECORD_FORGED: (
        "This record was changed: {what} does not hold ({why}). Nothing was imported."
    ),
    Refusal.SIGN_IN_AT_ONCE: "Another try with this name is being checked. Try again in a second.",
    Refusal.SIGN_ON_NO_NAME: "The sign-on of the plant sent no “{claim}”. "
    "It sent: {sent}. Who looks after the server "
    "sets "
    "ORTHOTORQ_SIGN_ON_CLAIM to one of these, or asks for more with ORTHOTORQ_SIGN_ON_SCOPE.",
    Refusal.SIGN_ON_OTHER: (
        "The plant sign-on answered for another person than {name}. Nothing was changed."
    ),
    Refusal.NOT_YOUR_JOB: "{name} began this. Only {name} or an administrator cancels it.",
    Refusal.SITE_NEW: (
        "“{site}” is a new site{nearest}. If it is meant, confirm it; if not, choose one of: "
        "{sites}."
    ),
    Refusal.TAG_REPEATED: "“{tag}” is in row {row} already. Delete one of the two rows.",
    Refusal.NOTHING_TOUCHED: (
        "No bolt that it touched needs a recheck that is not asked for already."
    ),
}
