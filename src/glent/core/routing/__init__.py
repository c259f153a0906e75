"""From samples to events and verdicts."""
