"""What devices report, and the adjustable times and distances."""
