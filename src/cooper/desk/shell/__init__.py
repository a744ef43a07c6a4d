"""The window around the rooms: Power line, Bench, Margins, Trail, start page, and its commands."""
