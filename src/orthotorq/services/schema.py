"""Schema changes for those above the services."""
from ..store.migrate import downgrade, upgrade

__all__ = ["downgrade", "upgrade"]
