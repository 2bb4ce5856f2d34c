"""What is told of a run: record, narrative, summary, outcome."""
