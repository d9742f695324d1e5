"""Pages below the mats that search: a wish, a load, a cake, how forgiving."""
