"""Tables. What a person typed is kept as typed; documents are text, so that their bytes stay what was hashed."""
from .base import UTC, Base
from .coming import CalendarLink, DueDate, JointEntry, Lesson, Meter, MeterReading
from .works import (
    Calibration,
    Equipment,
    Event,
    ForeignRecord,
    Job,
    Joint,
    OwnEntry,
    Person,
    Photo,
    Plan,
    Pull,
    Reading,
    RefusedEvent,
    Revision,
    RevisionLoad,
    Run,
    Seal,
    SideDraft,
    SignIn,
    SignInAttempt,
    Site,
    Stock,
    Tool,
    ToolPull,
    ToolReading,
)

__all__ = [
    "UTC", "Base", "CalendarLink", "Calibration", "DueDate", "Equipment", "Event", "ForeignRecord", "Job", "Joint",
    "JointEntry", "Lesson", "Meter", "MeterReading", "OwnEntry", "Person", "Photo", "Plan", "Pull", "Reading", "RefusedEvent",
    "Revision", "RevisionLoad", "Run", "Seal", "SideDraft", "SignIn", "SignInAttempt", "Site", "Stock", "Tool", "ToolPull",
    "ToolReading",
]
