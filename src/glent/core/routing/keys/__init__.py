"""Keys, gamepads and text."""
