"""Devices: scales and probes that send what they read, each with a token of its own."""
