"""Learned detectors: what they find in one small picture. Their models are data that set-up brings; see `models`."""
