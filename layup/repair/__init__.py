"""A damage that was looked over, and the job it makes: ordinary parts, joints and coats. Nothing here says that it is strong enough."""
