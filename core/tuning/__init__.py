"""What is set beside the plugs: breaker points and timing, a two-stroke's mix."""
