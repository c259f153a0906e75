"""What a press may become: the recognisers, and the contest between them (laws G1–G9)."""
