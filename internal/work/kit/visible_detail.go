package kit

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// VisibleDetailRequest is what is looked at: machines (all where none is named), perhaps
// a piece, at a layer height and scale, a face tilted from the plate, and a
// support tip that is changed.
type VisibleDetailRequest struct {
	MachineIDs []string
	PieceID    string
	LayerUM    float64
	ScalePct   float64
	TiltDeg    float64
	TipFromMM  float64
	TipToMM    float64
}

// VisibleDetail is what machines can draw, as eyes at the readers' distance see it.
type VisibleDetail struct {
	ViewingMM float64       `json:"viewing_mm"`
	LayerUM   float64       `json:"layer_um"`
	TiltDeg   float64       `json:"tilt_deg"`
	ScalePct  float64       `json:"scale_pct"`
	Piece     string        `json:"piece"`
	FinestMM  *float64      `json:"finest_mm"`
	FinestIs  string        `json:"finest_is"`
	Machines  []MachineSees `json:"machines"`
}

// MachineSees is one machine's part. DotUM is its pitch, or the spot of a laser
// which has no pitch: Steps is then nil, since no pixel step meets the layer's.
type MachineSees struct {
	MachineID string              `json:"machine_id"`
	Machine   string              `json:"machine"`
	Engine    string              `json:"engine"`
	DotUM     float64             `json:"dot_um"`
	Dot       optics.SightResult  `json:"dot"`
	DotStep   optics.SightResult  `json:"dot_step"`
	LayerStep optics.SightResult  `json:"layer_step"`
	Steps     *optics.StepsResult `json:"steps"`
	Scale     *optics.ScaleResult `json:"scale"`
	Tip       *optics.TipResult   `json:"tip"`
}

// VisibleDetail computes what pitch, layer, tilt, scale and support tips come to.
func (w *Tasks) VisibleDetail(ctx context.Context, ask VisibleDetailRequest) (out VisibleDetail, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		settings, err := t.Settings()
		if err != nil {
			return err
		}
		out = VisibleDetail{ViewingMM: settings.ViewingMM, LayerUM: ask.LayerUM, TiltDeg: ask.TiltDeg, ScalePct: ask.ScalePct, Machines: []MachineSees{}}
		if ask.PieceID != "" {
			p, err := t.Piece(ask.PieceID)
			if err != nil {
				return err
			}
			out.Piece = p.Name
			out.FinestMM, out.FinestIs = finestOf(p)
		}
		machines, err := t.Machines()
		if err != nil {
			return err
		}
		wanted := map[string]bool{}
		for _, id := range ask.MachineIDs {
			wanted[id] = true
		}
		for _, m := range machines {
			if len(wanted) > 0 && !wanted[m.ID] {
				continue
			}
			sees, err := out.see(m, ask)
			if err != nil {
				return err
			}
			out.Machines = append(out.Machines, sees)
		}
		return nil
	})
	return out, err
}

// finestOf is the finest feature of a piece: as the reviewer stated it, else
// the thinnest part that its slices show.
func finestOf(p bench.Piece) (*float64, string) {
	if p.FinestMM != nil {
		return p.FinestMM, "stated"
	}
	if d := p.Geometry.Difficulty; d != nil && d.ThinnestMM != nil {
		return d.ThinnestMM, "thinnest free-standing part of its slices"
	}
	return nil, "not known; state the finest feature of the piece"
}

// DifficultyWords says in a sentence which difficulty a piece puts to the test.
func DifficultyWords(p bench.Piece) string {
	d := p.Geometry.Difficulty
	if d == nil {
		return "How hard " + p.Name + " is was not read off its slices."
	}
	words := fmt.Sprintf("%s: %s mm tall, largest layer %s mm², largest jump %s mm², %s mm² of overhang flatter than 45°, %d parts that start in mid-air",
		p.Name, say.Figure(p.SizeZMM), say.Figure(d.LargestMM2), say.Figure(d.JumpMM2), say.Figure(d.OverhangMM2), d.IslandCount)
	if finest, from := finestOf(p); finest != nil {
		words += fmt.Sprintf("; finest feature %s mm (%s)", say.Figure(*finest), from)
	}
	return words + "."
}

// DotUM is what a machine draws with, in µm: its pitch, or the spot of a laser, which has
// no pitch. It fails where neither is on record.
func DotUM(m bench.Machine) (dot float64, pitch *optics.PitchResult, err error) {
	if m.LightEngine == bench.Laser {
		return *m.SpotUM, nil, nil
	}
	if pitch, err = PitchOf(m); err != nil {
		return 0, nil, err
	}
	if pitch == nil {
		return 0, nil, quantity.Errorf("px_x", "of %s is not on record, so its pitch is not known", m.Name)
	}
	return pitch.PitchUM, pitch, nil
}

func (o *VisibleDetail) see(m bench.Machine, ask VisibleDetailRequest) (MachineSees, error) {
	out := MachineSees{MachineID: m.ID, Machine: m.Name, Engine: m.LightEngine}
	dot, pitch, err := DotUM(m)
	if err != nil {
		return out, err
	}
	out.DotUM = dot
	sight := func(size float64, acuity *float64) (optics.SightResult, error) {
		return optics.Sight(optics.SightInput{SizeUM: size, DistanceMM: o.ViewingMM, AcuityArcmin: acuity})
	}
	if out.Dot, err = sight(dot, nil); err != nil {
		return out, err
	}
	if out.DotStep, err = sight(dot, quantity.Ptr(optics.SteppingArcmin)); err != nil {
		return out, err
	}
	if out.LayerStep, err = sight(ask.LayerUM, quantity.Ptr(optics.SteppingArcmin)); err != nil {
		return out, quantity.Errorf("layer_um", "is %s µm; layers are above 0", say.Figures(ask.LayerUM, 6))
	}
	var pitchUM *float64
	if pitch != nil {
		pitchUM = &dot
		steps, err := optics.Steps(optics.StepsInput{LayerUM: ask.LayerUM, PitchUM: dot, TiltDeg: ask.TiltDeg})
		if err != nil {
			return out, err
		}
		out.Steps = &steps
	}
	if o.FinestMM != nil {
		scale, err := optics.Scale(optics.ScaleInput{ScalePct: ask.ScalePct, FeatureUM: 1000 * *o.FinestMM, LayerUM: ask.LayerUM, PitchUM: pitchUM})
		if err != nil {
			return out, err
		}
		out.Scale = &scale
	}
	tip, err := optics.Tip(optics.TipInput{FromMM: ask.TipFromMM, ToMM: ask.TipToMM, PitchUM: pitchUM})
	out.Tip = &tip
	return out, err
}

// PredictAsk chooses what is drawn by which machine, and how light and resin
// are taken to behave. A ladder has a shape and sizes in mm; a slice a piece, a
// layer (from 0) and a scale. AtXMM and AtYMM move what is drawn against the
// pixel grid; the view is about WidthMM wide round its middle (or round ViewX
// and ViewY of a slice).
type PredictAsk struct {
	MachineID  string    `json:"machine_id" minLength:"1"`
	Shape      string    `json:"shape" enum:"walls,posts,slots,holes,slice"`
	SizesMM    []float64 `json:"sizes_mm" required:"false"`
	PieceID    string    `json:"piece_id" required:"false"`
	LayerUM    float64   `json:"layer_um" required:"false"`
	Layer      int64     `json:"layer" required:"false"`
	ScalePct   float64   `json:"scale_pct" required:"false"`
	ViewXMM    *float64  `json:"view_x_mm" required:"false"`
	ViewYMM    *float64  `json:"view_y_mm" required:"false"`
	WidthMM    *float64  `json:"width_mm" required:"false"`
	AtXMM      float64   `json:"at_x_mm" required:"false"`
	AtYMM      float64   `json:"at_y_mm" required:"false"`
	GreyLevels int64     `json:"grey_levels"`
	BlurPX     float64   `json:"blur_px"`
	SpreadUM   float64   `json:"spread_um"`
	Threshold  float64   `json:"threshold"`
}

// Predicted is the picture, its outline error, and for a ladder what becomes of
// each rung wherever it falls on the grid.
type Predicted struct {
	Machine    string            `json:"machine"`
	View       optics.View       `json:"view"`
	Prediction optics.Prediction `json:"prediction"`
	Rungs      []optics.Rung     `json:"rungs"`
	Picture    []byte            `json:"picture_png" contentEncoding:"base64"`
}

// Predict draws a ladder or a slice as a machine would.
func (w *Tasks) Predict(ctx context.Context, ask PredictAsk) (out Predicted, err error) {
	m, err := task.ReadOne(ctx, w.Base, ask.MachineID, (*store.Tx).Machine)
	if err != nil {
		return out, err
	}
	light := optics.Light{SpotUM: m.SpotUM, GreyLevels: ask.GreyLevels, BlurPX: ask.BlurPX, SpreadUM: ask.SpreadUM, Threshold: ask.Threshold}
	if _, pitch, err := DotUM(m); err != nil {
		return out, err
	} else if pitch != nil {
		light.SpotUM, light.PitchXUM, light.PitchYUM = nil, &pitch.PitchXUM, &pitch.PitchYUM
	}
	out.Machine, out.Rungs = m.Name, []optics.Rung{}
	var outlines []optics.Polygon
	if ask.Shape == "slice" {
		outlines, out.View, err = w.sliceToDraw(ctx, ask)
	} else {
		outlines, out.View, err = ladderToDraw(ask)
		if err == nil {
			out.Rungs, err = optics.PredictLadder(ask.SizesMM, ask.Shape == "slots" || ask.Shape == "holes", light)
		}
	}
	if err != nil {
		return out, err
	}
	for _, o := range outlines {
		for i := range o {
			o[i] = [2]float64{o[i][0] + ask.AtXMM, o[i][1] + ask.AtYMM}
		}
	}
	return task.Heavily(ctx, w.Base, nil, func() (Predicted, error) {
		if out.Prediction, err = optics.Predict(outlines, light, out.View); err != nil {
			return out, err
		}
		out.Picture, err = PNG(out.Prediction.Picture)
		return out, err
	})
}

// usualViewMM is how wide a view of a slice is unless asked otherwise.
const usualViewMM = 3.0

func (w *Tasks) sliceToDraw(ctx context.Context, ask PredictAsk) (out []optics.Polygon, view optics.View, err error) {
	s, err := w.SliceOf(ctx, ask.PieceID, ask.LayerUM, ask.Layer)
	if err != nil {
		return nil, view, err
	}
	var c quantity.Checks
	c.Above("scale_pct", ask.ScalePct)
	if c.Err() != nil {
		return nil, view, c.Err()
	}
	k := ask.ScalePct / 100
	for _, l := range s.Loops {
		p := make(optics.Polygon, len(l))
		for i, v := range l {
			p[i] = [2]float64{(v[0] - s.MinMM[0]) * k, (v[1] - s.MinMM[1]) * k}
		}
		out = append(out, p)
	}
	width := quantity.Or(ask.WidthMM, usualViewMM)
	x, y := quantity.Or(ask.ViewXMM, s.SizeMM[0]*k/2), quantity.Or(ask.ViewYMM, s.SizeMM[1]*k/2)
	return out, optics.View{XMM: x - width/2, YMM: y - width/3, WidthMM: width, DepthMM: width * 2 / 3}, nil
}

// ladderToDraw lays a ladder's rungs side by side: walls and posts as solids,
// slots and holes as voids in a bar.
func ladderToDraw(ask PredictAsk) (out []optics.Polygon, view optics.View, err error) {
	if len(ask.SizesMM) == 0 || len(ask.SizesMM) > 12 {
		return nil, view, quantity.Errorf("sizes_mm", "hold %d sizes; give 1 to 12", len(ask.SizesMM))
	}
	void := ask.Shape == "slots" || ask.Shape == "holes"
	largest := 0.0
	for i, size := range ask.SizesMM {
		if !(size > 0) || size > 20 {
			return nil, view, quantity.Errorf(fmt.Sprintf("sizes_mm[%d]", i), "is %s mm; sizes lie above 0 and up to 20 mm", say.Figures(size, 6))
		}
		largest = max(largest, size)
	}
	gap, height := max(0.4, largest*0.8), max(0.8, 1.5*largest)
	x := gap
	for _, size := range ask.SizesMM {
		var p optics.Polygon
		if ask.Shape == "posts" || ask.Shape == "holes" {
			p = optics.Circle(x+size/2, gap+height/2, size)
		} else {
			p = optics.Polygon{{x, gap}, {x + size, gap}, {x + size, gap + height}, {x, gap + height}}
		}
		if void { // wound the other way, it is taken out of the bar
			for i, j := 0, len(p)-1; i < j; i, j = i+1, j-1 {
				p[i], p[j] = p[j], p[i]
			}
		}
		out = append(out, p)
		x += size + gap
	}
	depth := height + 2*gap
	if void {
		edge := gap / 2
		out = append(out, optics.Polygon{{edge, edge}, {x - edge, edge}, {x - edge, depth - edge}, {edge, depth - edge}})
	}
	return out, optics.View{WidthMM: x, DepthMM: depth}, nil
}
