"""Numbered steps from an empty file to the present tables. Add at the end, never change one that was shipped."""

from __future__ import annotations

MIGRATIONS: tuple[str, ...] = (
    # 1: paints, cakes and brushes
    """
    CREATE TABLE paints (
        id TEXT PRIMARY KEY, position INTEGER NOT NULL, name TEXT NOT NULL, srgb TEXT NOT NULL,
        contrast REAL, contrast_film_um REAL NOT NULL DEFAULT 20, tint REAL NOT NULL DEFAULT 1,
        finish TEXT NOT NULL DEFAULT 'matte', eye_area INTEGER NOT NULL DEFAULT 1, lips INTEGER NOT NULL DEFAULT 1,
        retired INTEGER NOT NULL DEFAULT 0);
    CREATE TABLE cakes (
        id TEXT PRIMARY KEY, position INTEGER NOT NULL, name TEXT NOT NULL, softness_mm REAL NOT NULL DEFAULT 0.3,
        length_mm REAL NOT NULL DEFAULT 45, retired INTEGER NOT NULL DEFAULT 0);
    CREATE TABLE stripes (
        cake TEXT NOT NULL REFERENCES cakes(id) ON DELETE CASCADE, position INTEGER NOT NULL, paint TEXT NOT NULL,
        width_mm REAL NOT NULL, PRIMARY KEY (cake, position));
    CREATE TABLE brushes (
        id TEXT PRIMARY KEY, position INTEGER NOT NULL, name TEXT NOT NULL, kind TEXT NOT NULL DEFAULT 'flat',
        width_mm REAL NOT NULL, thickness_mm REAL NOT NULL DEFAULT 2, bristle_mm REAL NOT NULL DEFAULT 17,
        capacity_mm3_per_mm REAL NOT NULL DEFAULT 3, release_mm REAL NOT NULL DEFAULT 150,
        fill_passes REAL NOT NULL DEFAULT 4, splay REAL NOT NULL DEFAULT 0.16, retired INTEGER NOT NULL DEFAULT 0);
    """,
    # 2: what is kept about each; cakes that wear; labels for skin
    """
    ALTER TABLE paints ADD COLUMN skin INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE paints ADD COLUMN opened TEXT;
    ALTER TABLE paints ADD COLUMN expires TEXT;
    ALTER TABLE paints ADD COLUMN stock_g REAL;
    ALTER TABLE paints ADD COLUMN notes TEXT NOT NULL DEFAULT '';
    ALTER TABLE cakes ADD COLUMN depth_mm REAL NOT NULL DEFAULT 8;
    ALTER TABLE cakes ADD COLUMN ombre INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE cakes ADD COLUMN opened TEXT;
    ALTER TABLE cakes ADD COLUMN expires TEXT;
    ALTER TABLE cakes ADD COLUMN stock_g REAL;
    ALTER TABLE cakes ADD COLUMN notes TEXT NOT NULL DEFAULT '';
    ALTER TABLE stripes ADD COLUMN hollow_mm REAL NOT NULL DEFAULT 0;
    CREATE TABLE dirt (
        cake TEXT NOT NULL REFERENCES cakes(id) ON DELETE CASCADE, position INTEGER NOT NULL, paint TEXT NOT NULL,
        mm3 REAL NOT NULL, PRIMARY KEY (cake, position, paint));
    ALTER TABLE brushes ADD COLUMN opened TEXT;
    ALTER TABLE brushes ADD COLUMN expires TEXT;
    ALTER TABLE brushes ADD COLUMN stock_g REAL;
    ALTER TABLE brushes ADD COLUMN notes TEXT NOT NULL DEFAULT '';
    """,
    # 3: measured paints, all kinds of brushes, own constants
    """
    CREATE TABLE reflectances (
        paint TEXT NOT NULL REFERENCES paints(id) ON DELETE CASCADE, wavelength_nm INTEGER NOT NULL, r REAL NOT NULL,
        PRIMARY KEY (paint, wavelength_nm));
    ALTER TABLE brushes ADD COLUMN cut_deg REAL NOT NULL DEFAULT 25;
    ALTER TABLE brushes ADD COLUMN tip_mm REAL NOT NULL DEFAULT 0.6;
    ALTER TABLE brushes ADD COLUMN print_mm REAL NOT NULL DEFAULT 18;
    ALTER TABLE brushes ADD COLUMN drift_mm REAL NOT NULL DEFAULT 0.8;
    ALTER TABLE brushes ADD COLUMN own TEXT NOT NULL DEFAULT '';
    """,
    # 4: scattering that falls with the wavelength; what a rinse leaves in the root
    """
    ALTER TABLE paints ADD COLUMN scatter_exponent REAL NOT NULL DEFAULT 0;
    ALTER TABLE brushes ADD COLUMN root_share REAL NOT NULL DEFAULT 0.03;
    """,
)
