package experiment

import (
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/work/planning"
)

// lay puts the copies of each side on a plate. Where several machines are compared all use
// the surface that the smallest has, in the middle of their own, so that a place is the
// same on each.
func (p *planner) lay(sides []onPlate, all []Combination) ([]draftPlate, error) {
	width, depth, height := math.Inf(1), math.Inf(1), math.Inf(1)
	for _, m := range p.machines {
		width, depth, height = min(width, m.WidthMM), min(depth, m.DepthMM), min(height, m.HeightMM)
	}
	out := make([]draftPlate, len(sides))
	for i, s := range sides {
		c := all[s.combination]
		m := named(p.machines, c.Machine, func(m bench.Machine) string { return m.Name })
		plate := planning.NewPlate(p.tellsApart(c), m.ID)
		plate.Orientation, plate.Supports, plate.WashS, plate.CureS, plate.Software = c.making.plate.Orientation, c.making.plate.Supports, c.making.plate.WashS, c.making.plate.CureS, c.making.plate.Software
		var placements []bench.Placement
		var items []plan.Item
		for _, piece := range s.pieces {
			for range p.request.Copies {
				placements = append(placements, bench.Placement{PieceID: piece.ID, ScalePct: c.making.scalePct})
				items = append(items, plan.Item{Footprint: planning.FootprintOf(piece), Scale: c.making.scalePct / 100})
			}
		}
		surface := plan.Plate{WidthMM: width, DepthMM: depth, HeightMM: height, MarginMM: plate.MarginMM, SpacingMM: plate.SpacingMM}
		places, err := plan.Pack(surface, items)
		if err != nil {
			return nil, err
		}
		for k, at := range places {
			if at == nil {
				return nil, quantity.Errorf("copies", "are %d of each piece; %s do not fit on %s. Take fewer copies, or a plate for each piece", p.request.Copies, holds(s.pieces, p.request.Copies), m.Name)
			}
			placements[k].XMM, placements[k].YMM, placements[k].TurnDeg = at.XMM+(m.WidthMM-width)/2, at.YMM+(m.DepthMM-depth)/2, at.TurnDeg
		}
		out[i] = draftPlate{plate: plate, placements: placements, side: i}
	}
	return out, nil
}

// mirror turns all that lies on a plate by half about its middle: what lay at one corner
// lies at the opposite one.
func mirror(placements []bench.Placement, m bench.Machine) {
	for i := range placements {
		p := &placements[i]
		p.XMM, p.YMM, p.TurnDeg = m.WidthMM-p.XMM, m.DepthMM-p.YMM, math.Mod(p.TurnDeg+180, 360)
	}
}
