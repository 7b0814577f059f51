"""The wire on the table: walked through, laid along the ruler, stood on the ground."""
