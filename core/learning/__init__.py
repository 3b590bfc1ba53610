"""What a shop learns from how its engines turned out."""
