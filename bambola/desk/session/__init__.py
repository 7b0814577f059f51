"""What is open, asked and kept: the studio, the bench desk, settings."""
