"""Seats, settling, lifts and the window."""
