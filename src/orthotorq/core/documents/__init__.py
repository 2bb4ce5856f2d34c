"""The open formats: plan, result, record. Pydantic lives only here."""
