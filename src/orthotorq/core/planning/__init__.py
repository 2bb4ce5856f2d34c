"""From a plan to a result: layouts, orders, targets, findings, working; `compute` is the door."""
