"""Gear that people measure, protect themselves and work with: kinds and ratings, test intervals, what fits where."""
