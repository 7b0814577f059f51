"""What lies on the table: the weigh-out list, blanks, schools compared, the figure step by step."""
