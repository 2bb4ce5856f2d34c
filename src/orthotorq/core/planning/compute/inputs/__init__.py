"""What the plan says, read and checked against its sources: facts, friction, stiffness, target,
settings of wrenches."""
