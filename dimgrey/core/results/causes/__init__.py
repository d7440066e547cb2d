"""What can have made a result other than its plan: one file for each cause, found by its name."""
