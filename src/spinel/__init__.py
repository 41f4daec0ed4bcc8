"""Spinel: shock and arc-flash hazards, decisions and permits for an electrical safety coordinator."""

__version__ = "0.17.0"
