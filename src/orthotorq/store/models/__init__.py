"""Tables. What a person typed is kept as typed; documents are text, so that their bytes stay what
was hashed."""

from .base import UTC, Base
from .condition import JointPart, Task
from .entries import OwnEntry, Stock
from .jobs import Job
from .people import Invitation, Person, Seal, SecurityEvent, SignIn, SignInAttempt
from .places import Equipment, Joint, Site
from .plans import Plan, Revision, RevisionLoad, SideDraft
from .rechecks import CalendarLink, DueDate, JointEntry, Lesson, Meter, MeterReading
from .runs import Event, ForeignRecord, Photo, Pull, Reading, RefusedEvent, Run
from .sheets import KeptSheet
from .tools import Calibration, Tool, ToolPull, ToolReading

__all__ = [
    "UTC",
    "Base",
    "CalendarLink",
    "Calibration",
    "DueDate",
    "Equipment",
    "Event",
    "ForeignRecord",
    "Invitation",
    "Job",
    "Joint",
    "JointEntry",
    "JointPart",
    "KeptSheet",
    "Lesson",
    "Meter",
    "MeterReading",
    "OwnEntry",
    "Person",
    "Photo",
    "Plan",
    "Pull",
    "Reading",
    "RefusedEvent",
    "Revision",
    "RevisionLoad",
    "Run",
    "Seal",
    "SecurityEvent",
    "SideDraft",
    "SignIn",
    "SignInAttempt",
    "Site",
    "Stock",
    "Task",
    "Tool",
    "ToolPull",
    "ToolReading",
]
