"""What lists of a run's addresses can show, sort and filter by: the columns, and the language of filters."""
