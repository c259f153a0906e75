"""What all tests share: the fixture that runs pytest within a test."""

pytest_plugins = ["pytester"]
