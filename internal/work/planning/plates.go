package planning

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// PlateEntry says how a plate is kept.
var PlateEntry = task.Entry[bench.Plate]{Table: "plate",
	Head: func(p *bench.Plate) task.Head {
		return task.Head{ID: &p.ID, Code: &p.Code, Version: &p.Version, CreatedMS: &p.CreatedMS}
	},
	Get: (*store.Tx).Plate, Put: (*store.Tx).SavePlate}

// mostPlacements bounds a plate.
const mostPlacements = 500

// PlateDraft is a plate with what lies on it.
type PlateDraft struct {
	Plate      bench.Plate       `json:"plate"`
	Placements []bench.Placement `json:"placements"`
}

// PlacedCopy is a placement with what is drawn of it: its outline on the plate in mm.
type PlacedCopy struct {
	Placement bench.Placement `json:"placement"`
	Piece     string          `json:"piece"`
	HeightMM  float64         `json:"height_mm"`
	Outline   []plan.Point    `json:"outline"`
}

// Fits is how many copies of a piece a plate takes alone.
type Fits struct {
	PieceID  string  `json:"piece_id"`
	Piece    string  `json:"piece"`
	ScalePct float64 `json:"scale_pct"`
	Copies   int64   `json:"copies"`
	Capacity int64   `json:"capacity"`
}

// PlateRow is a plate in a list.
type PlateRow struct {
	Plate   bench.Plate `json:"plate"`
	Machine string      `json:"machine"`
	Copies  int64       `json:"copies"`
	RunIDs  []string    `json:"run_ids"`
	Runs    []string    `json:"runs"`
}

// Plates lists the plates, the newest first.
func (w *Tasks) Plates(ctx context.Context) (out []PlateRow, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		plates, err := t.Plates()
		if err != nil {
			return err
		}
		placements, err := t.Placements()
		if err != nil {
			return err
		}
		copies := map[string]int64{}
		for _, p := range placements {
			copies[p.PlateID]++
		}
		for i := len(plates) - 1; i >= 0; i-- {
			m, err := t.Machine(plates[i].MachineID)
			if err != nil {
				return err
			}
			runs, err := t.RunsOfPlate(plates[i].ID)
			if err != nil {
				return err
			}
			row := PlateRow{Plate: plates[i], Machine: m.Name, Copies: copies[plates[i].ID], RunIDs: []string{}, Runs: []string{}}
			for _, r := range runs {
				row.RunIDs, row.Runs = append(row.RunIDs, r.ID), append(row.Runs, r.Code)
			}
			out = append(out, row)
		}
		return nil
	})
	return out, err
}

// SavePlate creates a plate or changes it and all that lies on it. A plate that
// was printed is kept as it was: its specimens refer to it.
func (w *Tasks) SavePlate(ctx context.Context, d PlateDraft) (out PlateSheet, err error) {
	if err := d.Plate.Check(); err != nil {
		return PlateSheet{}, err
	}
	if len(d.Placements) > mostPlacements {
		return PlateSheet{}, quantity.Errorf("placements", "hold %d copies; a plate takes up to %d", len(d.Placements), mostPlacements)
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlateSheet, error) {
		p, err := task.Put(w.Base, t, PlateEntry, d.Plate, plateIsOpen, keepPlan, plateRefers)
		if err != nil {
			return PlateSheet{}, err
		}
		if err := w.Lay(t, p.ID, d.Placements); err != nil {
			return PlateSheet{}, err
		}
		return w.ReadPlate(t, p.ID)
	})
}

// Lay puts placements on a plate, in place of those before.
func (w *Tasks) Lay(t *store.Tx, plateID string, placements []bench.Placement) error {
	if err := t.ClearPlate(plateID); err != nil {
		return err
	}
	for i, p := range placements {
		var c quantity.Checks
		c.Above(fmt.Sprintf("placements[%d].scale_pct", i), p.ScalePct)
		c.AboveIf(fmt.Sprintf("placements[%d].exposure_s", i), p.ExposureS)
		if c.Err() != nil {
			return c.Err()
		}
		if _, err := t.Piece(p.PieceID); err != nil {
			return err
		}
		var err error
		if p.ID, err = w.NewID(); err != nil {
			return err
		}
		p.PlateID, p.Position = plateID, int64(i)
		if err := t.SavePlacement(p); err != nil {
			return err
		}
	}
	return nil
}

func plateIsOpen(t *store.Tx, p *bench.Plate) error {
	if p.ID == "" {
		return nil
	}
	runs, err := t.RunsOfPlate(p.ID)
	if err != nil || len(runs) == 0 {
		return err
	}
	return fmt.Errorf("this plate was printed as %s and stays as it was; copy it to change it: %w", runs[0].Code, bench.ErrConflict)
}

// plateRefers holds a plate against what it refers to.
func plateRefers(t *store.Tx, p *bench.Plate) error {
	if _, err := t.Machine(p.MachineID); err != nil {
		return err
	}
	if p.ProfileID != nil {
		profile, err := t.Profile(*p.ProfileID)
		if err != nil {
			return err
		}
		if profile.MachineID != p.MachineID {
			return quantity.Errorf("profile_id", "%s belongs to another machine; choose settings of this one", profile.Code)
		}
		if p.BottleID != nil {
			b, err := t.Bottle(*p.BottleID)
			if err != nil {
				return err
			}
			if b.ResinID != profile.ResinID {
				return quantity.Errorf("bottle_id", "%s holds another resin than %s; choose a bottle of that one", b.Code, profile.Code)
			}
		}
	}
	if p.SeriesID != nil {
		s, err := t.Series(*p.SeriesID)
		if err != nil {
			return err
		}
		if s.MachineID != p.MachineID {
			return quantity.Errorf("series_id", "%s is of another machine; choose a series of this one", s.Code)
		}
	}
	return nil
}

// Packing asks for copies of a piece on a plate.
type Packing struct {
	PieceID  string  `json:"piece_id" minLength:"1"`
	Copies   int64   `json:"copies" minimum:"0" maximum:"500"`
	ScalePct float64 `json:"scale_pct" exclusiveMinimum:"0"`
}

// Packed is a plate laid anew, and what did not find room.
type Packed struct {
	Placements []bench.Placement `json:"placements"`
	Asked      int64             `json:"asked"`
	Left       int64             `json:"left"`
	Message    string            `json:"message"`
}

// PackPlate lays everything that is on a draft, and so many copies of a piece
// more, anew. Nothing is saved. What does not fit is said: N of M.
func (w *Tasks) PackPlate(ctx context.Context, d PlateDraft, more *Packing) (out Packed, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		m, err := t.Machine(d.Plate.MachineID)
		if err != nil {
			return err
		}
		wanted := d.Placements
		if more != nil && more.Copies > mostPlacements {
			return quantity.Errorf("more.copies", "is %d; up to %d are laid on one plate", more.Copies, mostPlacements)
		}
		if more != nil {
			for range more.Copies {
				wanted = append(wanted, bench.Placement{PieceID: more.PieceID, ScalePct: more.ScalePct})
			}
		}
		if len(wanted) > mostPlacements {
			return quantity.Errorf("copies", "make %d on one plate; up to %d are laid", len(wanted), mostPlacements)
		}
		items, err := itemsOf(t, wanted)
		if err != nil {
			return err
		}
		surface, err := PlateOf(t, m, d.Plate)
		if err != nil {
			return err
		}
		places, err := plan.Pack(surface, items)
		if err != nil {
			return err
		}
		out = Packed{Placements: []bench.Placement{}, Asked: int64(len(wanted))}
		for i, at := range places {
			if at == nil {
				out.Left++
				continue
			}
			p := wanted[i]
			p.XMM, p.YMM, p.TurnDeg = at.XMM, at.YMM, at.TurnDeg
			out.Placements = append(out.Placements, p)
		}
		if out.Left > 0 {
			out.Message = fmt.Sprintf("Does not fit: %d of %d found no room on %s by this rule (%s mm apart, %s mm from the edge).", out.Left, out.Asked, m.Name, say.Figures(d.Plate.SpacingMM, 6), say.Figures(d.Plate.MarginMM, 6))
		}
		return nil
	})
	return out, err
}

// PlateOf is the surface that may be used of a plate: what was found usable of its machine's.
func PlateOf(t *store.Tx, m bench.Machine, p bench.Plate) (plan.Plate, error) {
	usable, err := kit.UsableOf(t, m)
	out := usable.Plate(m)
	out.MarginMM, out.SpacingMM = p.MarginMM, p.SpacingMM
	return out, err
}

// itemsOf turns placements into what is packed; a piece that was not surveyed
// is taken by its box.
func itemsOf(t *store.Tx, placements []bench.Placement) ([]plan.Item, error) {
	pieces := map[string]bench.Piece{}
	out := make([]plan.Item, len(placements))
	for i, p := range placements {
		piece, known := pieces[p.PieceID]
		if !known {
			var err error
			if piece, err = t.Piece(p.PieceID); err != nil {
				return nil, err
			}
			pieces[p.PieceID] = piece
		}
		out[i] = plan.Item{Footprint: FootprintOf(piece), Scale: p.ScalePct / 100}
	}
	return out, nil
}

// FootprintOf is the outline that a piece needs on a plate.
func FootprintOf(p bench.Piece) plan.Footprint {
	if p.Geometry.Footprint != nil {
		return *p.Geometry.Footprint
	}
	x, y := p.SizeXMM/2, p.SizeYMM/2
	return plan.Footprint{Outline: []plan.Point{{-x, -y}, {x, -y}, {x, y}, {-x, y}}, HeightMM: p.SizeZMM}
}

// PlateMesh is a plate as STL or 3MF, every coupon with its own number, pieces
// standing on z = 0.
func (w *Tasks) PlateMesh(ctx context.Context, id, format string) (name string, data []byte, err error) {
	var (
		plate   bench.Plate
		objects []mesh.Object
		items   []mesh.Item
	)
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if plate, err = t.Plate(id); err != nil {
			return err
		}
		placements, err := t.PlacementsOfPlate(id)
		if err != nil {
			return err
		}
		if len(placements) == 0 {
			return quantity.Errorf("placements", "are empty; lay a piece on the plate first")
		}
		objects, items, err = w.bodies(t, placements)
		return err
	})
	if err != nil {
		return "", nil, err
	}
	name = kit.FileStem(plate.Code + " " + plate.Name)
	if format == "3mf" {
		data, err = mesh.Write3MF(objects, items)
		return name + ".3mf", data, err
	}
	var all []mesh.Triangle
	for _, item := range items {
		all = append(all, mesh.Placed(objects[item.Object].Triangles, item.Pose)...)
	}
	return name + ".stl", mesh.WriteSTL(all), nil
}

// bodies gathers each different body once and where its copies stand.
func (w *Tasks) bodies(t *store.Tx, placements []bench.Placement) (objects []mesh.Object, items []mesh.Item, err error) {
	known := map[string]int{}
	for _, p := range placements {
		key := fmt.Sprintf("%s #%d", p.PieceID, quantity.Or(p.Number, 0))
		if _, there := known[key]; !there {
			piece, err := t.Piece(p.PieceID)
			if err != nil {
				return nil, nil, err
			}
			triangles, err := w.Kit.Numbered(piece, p.Number)
			if err != nil {
				return nil, nil, err
			}
			name := piece.Name
			if p.Number != nil {
				name = fmt.Sprintf("%s %d", name, *p.Number)
			}
			known[key] = len(objects)
			objects = append(objects, mesh.Object{Name: name, Triangles: centred(triangles)})
		}
		items = append(items, mesh.Item{Object: known[key], Pose: mesh.Pose{XMM: p.XMM, YMM: p.YMM, TurnDeg: p.TurnDeg, Scale: p.ScalePct / 100}})
	}
	return objects, items, nil
}

// centred moves a body so that the middle of its box is at the origin and it
// stands on z = 0.
func centred(triangles []mesh.Triangle) []mesh.Triangle {
	b := mesh.BoundsOf(triangles)
	return mesh.Placed(triangles, mesh.Pose{XMM: -(b.Min[0] + b.Max[0]) / 2, YMM: -(b.Min[1] + b.Max[1]) / 2, ZMM: -b.Min[2], Scale: 1})
}

// NewPlate is an empty plate by the usual rules: 2 mm from the edge and between pieces.
func NewPlate(name, machineID string) bench.Plate {
	return bench.Plate{Name: name, MachineID: machineID, MarginMM: 2, SpacingMM: 2, DripML: 4, LiquidRatio: 1}
}
