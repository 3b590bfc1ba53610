"""From good probabilities to what is said and done: sentence, plug, key and money."""
