"""A tooth under load: the stress field of its true section, its compliance, loaded contact."""
