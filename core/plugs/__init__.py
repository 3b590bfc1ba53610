"""New plugs on the bench: gap, blades, torque, the voltage that a gap wants."""
