"""The heart of Glent: geometry, scene, input and routing. No clock, no I/O, no window."""
