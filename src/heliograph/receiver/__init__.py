"""The receiver process: owns what arrives on UDP 6454 and 5568, so that the engine never reads."""
