"""The survey's page: bounds, cloud, table and shelf in the Bench's place."""
