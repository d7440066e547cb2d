"""Practising the eye: drills with their answers and reasons, and when each card comes back."""
