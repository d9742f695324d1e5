"""The question turned round: which load lays what is wanted, which cake to make, how forgiving it is."""
