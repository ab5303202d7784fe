"""Pictures of which a part was changed: the area, proof that nothing else changed, the old pixels put back, and parts that were added."""
