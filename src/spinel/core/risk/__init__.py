"""Risk of a task: worded scales, the hierarchy of controls, opinions given alone and set side by side, and what would
help."""
