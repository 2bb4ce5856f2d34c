"""Use cases: `command(ctx, input) -> outcome`. They never commit and never see Flask."""
