"""The walk through the work order: what is open, what is asked, what deviates."""
