"""Practice in a shop: what its learners tried, who signed for them, how large a pot that lets them mix."""
