"""What lies under a point or along a ray: reads only."""
