-- an order may be cancelled, and reopened
ALTER TABLE orders MODIFY status VARCHAR(16) NOT NULL;
