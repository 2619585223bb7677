"""Planes of squares: cells placed on them, woven, arranged, made from places; and how clips lie on them."""
