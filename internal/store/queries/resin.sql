-- name: SaveResin :exec
INSERT INTO resin (
  id, code, version, created_ms, name, maker, family, colour, density_g_ml, bottle_ml, bottle_g, price_list, price_discount, price_shipping, price_tax_pct, price_tax_included, stated_wash_s, stated_cure_s, notes, claims, prints_from_c, prints_to_c
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  maker = excluded.maker,
  family = excluded.family,
  colour = excluded.colour,
  density_g_ml = excluded.density_g_ml,
  bottle_ml = excluded.bottle_ml,
  bottle_g = excluded.bottle_g,
  price_list = excluded.price_list,
  price_discount = excluded.price_discount,
  price_shipping = excluded.price_shipping,
  price_tax_pct = excluded.price_tax_pct,
  price_tax_included = excluded.price_tax_included,
  stated_wash_s = excluded.stated_wash_s,
  stated_cure_s = excluded.stated_cure_s,
  notes = excluded.notes,
  claims = excluded.claims,
  prints_from_c = excluded.prints_from_c,
  prints_to_c = excluded.prints_to_c;

-- name: ResinByID :one
SELECT * FROM resin WHERE id = ?;

-- name: Resins :many
SELECT * FROM resin ORDER BY created_ms, code;
