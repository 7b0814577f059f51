"""What lies on the table: the weigh-out list, blanks, schools side by side, the figure step by step."""
