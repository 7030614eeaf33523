-- Deliveries the user keeps under a name for all projects.
CREATE TABLE delivery (
    name TEXT PRIMARY KEY,
    document TEXT NOT NULL -- JSON of core.delivery.Delivery
) STRICT;
