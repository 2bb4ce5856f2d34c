"""What a bolt sees, and the limits it is held against: at assembly, after losses, at work."""
