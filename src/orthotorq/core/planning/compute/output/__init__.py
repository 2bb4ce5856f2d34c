"""What the result says: stages, passes, groups, kit, working."""
