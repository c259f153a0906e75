"""The gallery of controls in any sequence, for as long as `make test` has time; `make soak` runs longer."""

from __future__ import annotations

from hypothesis import HealthCheck, settings

from gallery_machine import GalleryMachine

TestGalleryMachine = GalleryMachine.TestCase
TestGalleryMachine.settings = settings(
    max_examples=25, stateful_step_count=40, deadline=None, suppress_health_check=list(HealthCheck)
)
