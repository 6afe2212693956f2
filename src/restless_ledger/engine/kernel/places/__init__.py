"""Distances, edges, pushes, areas, and who can be aimed at."""
