package experiment

import (
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
)

// lay puts the copies of each side on a plate. Where several machines are compared all use
// the surface that the smallest has usable, in the middle of what is usable of their own, so that
// a place is the same on each, and lies over no spot of any.
func (p *planner) lay(sides []onPlate, all []Combination) ([]draftPlate, error) {
	common, err := p.commonSurface()
	if err != nil {
		return nil, err
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
		surface := common.plate
		surface.MarginMM, surface.SpacingMM = plate.MarginMM, plate.SpacingMM
		places, err := plan.Pack(surface, items)
		if err != nil {
			return nil, err
		}
		for k, at := range places {
			if at == nil {
				return nil, quantity.Errorf("copies", "are %d of each piece; %s do not fit on %s. Take fewer copies, or a plate for each piece", p.request.Copies, holds(s.pieces, p.request.Copies), m.Name)
			}
			x, y := common.corner(m.ID)
			placements[k].XMM, placements[k].YMM, placements[k].TurnDeg = at.XMM+x, at.YMM+y, at.TurnDeg
		}
		out[i] = draftPlate{plate: plate, placements: placements, side: i}
	}
	return out, nil
}

// surface is what all machines of a plan have usable, about the middle of each one's own.
type surface struct {
	plate   plan.Plate
	middles map[string]plan.Point
}

// corner is where the surface begins on a machine's plate, in mm from its front left corner.
func (s surface) corner(machineID string) (x, y float64) {
	middle := s.middles[machineID]
	return middle[0] - s.plate.WidthMM/2, middle[1] - s.plate.DepthMM/2
}

// commonSurface finds it. A spot of any machine is kept free on all, and so is the place that it
// has when what lies there is turned about the middle.
func (p *planner) commonSurface() (surface, error) {
	out := surface{plate: plan.Plate{WidthMM: math.Inf(1), DepthMM: math.Inf(1), HeightMM: math.Inf(1)}, middles: map[string]plan.Point{}}
	found := map[string]bench.Usable{}
	for _, m := range p.machines {
		usable, err := kit.UsableOf(p.t, m)
		if err != nil {
			return out, err
		}
		found[m.ID] = usable
		out.plate.WidthMM, out.plate.DepthMM, out.plate.HeightMM = min(out.plate.WidthMM, usable.WidthMM), min(out.plate.DepthMM, usable.DepthMM), min(out.plate.HeightMM, usable.HeightMM)
		dead := usable.Plate(m).Dead
		out.middles[m.ID] = plan.Point{dead.LeftMM + usable.WidthMM/2, dead.FrontMM + usable.DepthMM/2}
	}
	for _, m := range p.machines {
		x, y := out.corner(m.ID)
		for _, s := range found[m.ID].Spots {
			here := plan.Spot{XMM: s.XMM - x, YMM: s.YMM - y, RadiusMM: s.RadiusMM}
			turned := plan.Spot{XMM: out.plate.WidthMM - here.XMM, YMM: out.plate.DepthMM - here.YMM, RadiusMM: s.RadiusMM}
			out.plate.Spots = append(out.plate.Spots, here, turned)
		}
	}
	return out, nil
}

// mirror turns all that lies on a plate by half about the middle of what is usable of it: what lay
// at one corner lies at the opposite one.
func mirror(placements []bench.Placement, m bench.Machine, usable bench.Usable) {
	dead := usable.Plate(m).Dead
	for i := range placements {
		p := &placements[i]
		p.XMM, p.YMM, p.TurnDeg = 2*dead.LeftMM+usable.WidthMM-p.XMM, 2*dead.FrontMM+usable.DepthMM-p.YMM, math.Mod(p.TurnDeg+180, 360)
	}
}
