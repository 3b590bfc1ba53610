"""Simulated instruments, stand-ins for outside devices: what they show, how it is streamed."""
