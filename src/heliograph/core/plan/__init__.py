"""Plans: things where they really are, in metres, x to the right and y up; placing and arranging them."""
