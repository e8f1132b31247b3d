"""What can be done, each under one verb."""
