package planning

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/store"
)

// Estimate is our own time for a print, with the model that gave it. Seconds
// are nil, with a reason, where something that the model needs is not known.
// Job is what the print holds; Interval is the 95 % prediction interval, nil
// where nothing tells it.
type Estimate struct {
	TotalS     *float64           `json:"total_s"`
	Interval   *quantity.Interval `json:"interval"`
	LightOnS   *float64           `json:"light_on_s"`
	LayerS     *float64           `json:"layer_s"`
	Layers     int64              `json:"layers"`
	Model      string             `json:"model" enum:"timing/masked,timing/laser,learned,none"`
	Reason     string             `json:"reason"`
	Job        timing.Job         `json:"job"`
	EachLayerS []float64          `json:"-"`
}

// dials is what a print is set to; exposures are nil where they are hidden.
type dials struct {
	layerUM          float64
	exposureS        *float64
	bottomLayers     int64
	bottomExposureS  *float64
	transitionLayers int64
	sealedName       string
}

// DialsOf is what a profile sets.
func DialsOf(p bench.Profile) dials {
	return dials{p.LayerUM, p.ExposureS, p.BottomLayers, p.BottomExposureS, p.TransitionLayers, p.SealedName}
}

// batch is copies of a piece on a plate.
type PlateLoad struct {
	Piece  bench.Piece
	Scale  float64
	Copies int64
}

// solidML is what one copy takes in solid resin: the piece less what it is
// hollowed by, its supports and its raft.
func (l PlateLoad) solidML() float64 {
	k := l.Scale * l.Scale * l.Scale
	return k * (max(0, l.Piece.VolumeML-l.Piece.HollowML)*(1+l.Piece.SupportPct/100) + l.Piece.SupportML + l.Piece.RaftML)
}

// allowance is by how much supports, raft and hollowing change what a slice of
// the piece alone holds.
func (l PlateLoad) allowance() float64 {
	if l.Piece.VolumeML <= 0 {
		return 1
	}
	return l.solidML() / (l.Piece.VolumeML * l.Scale * l.Scale * l.Scale)
}

// PlateLayers adds up the slices of all copies, with their allowances. Cutting
// stops when the one who asked has gone.
func (w *Tasks) PlateLayers(t *store.Tx, loads []PlateLoad, layerUM float64) ([]mesh.Layer, error) {
	var out []mesh.Layer
	for _, l := range loads {
		layers, err := w.Kit.Slices(t.Context(), l.Piece, layerUM, l.Scale)
		if err != nil {
			return nil, err
		}
		for len(out) < len(layers) {
			out = append(out, mesh.Layer{})
		}
		n, allowance := float64(l.Copies), l.allowance()
		for i, s := range layers {
			out[i].AreaMM2 += n * s.AreaMM2 * allowance
			out[i].PerimeterMM += n * s.PerimeterMM
		}
	}
	return out, nil
}

func jobOf(layers []mesh.Layer) timing.Job {
	job := timing.Job{Layers: int64(len(layers))}
	for _, l := range layers {
		job.AreaMM2 += l.AreaMM2
		job.OutlineMM += l.PerimeterMM
	}
	return job
}

// Estimate computes our time for what lies on a plate: by the tallest piece on
// a masked machine, by every slice on a laser, and by what the machine's own
// runs taught where its settings are sealed.
func (w *Tasks) Estimate(t *store.Tx, m bench.Machine, d dials, loads []PlateLoad) (Estimate, []mesh.Layer, error) {
	layers, err := w.PlateLayers(t, loads, d.layerUM)
	if err != nil {
		return Estimate{}, nil, err
	}
	out := Estimate{Layers: int64(len(layers)), Model: "none", Job: jobOf(layers)}
	switch {
	case m.LightEngine == bench.Laser:
		err = out.laser(m, layers)
	case d.exposureS == nil || d.bottomExposureS == nil:
		err = w.learn(t, m, d, &out)
	default:
		err = out.masked(m, d)
	}
	for _, l := range loads {
		if !w.Store.HasMesh(l.Piece.MeshSHA256) {
			out.Reason = strings.TrimSpace(out.Reason + " The mesh file of " + l.Piece.Name + " is missing, so a plain block of its volume stands in for its slices; restore it from a backup.")
		}
	}
	return out, layers, err
}

func (e *Estimate) laser(m bench.Machine, layers []mesh.Layer) error {
	in := timing.LaserInput{
		Layers: e.Layers, AreaMM2Total: e.Job.AreaMM2, PerimeterMMTotal: e.Job.OutlineMM, Copies: 1, HatchMM: *m.HatchMM, HatchMMS: *m.HatchMMS,
		ContourPasses: *m.ContourPasses, ContourMMS: *m.ContourMMS, SettleS: *m.SettleS, StartS: &m.StartS, EndS: &m.EndS,
	}
	res, err := timing.Laser(in)
	if err != nil {
		return err
	}
	e.TotalS, e.LightOnS, e.LayerS, e.Model = &res.TotalS, &res.LightOnS, &res.LayerS, "timing/laser"
	for _, l := range layers {
		in.Layers, in.AreaMM2Total, in.PerimeterMMTotal = 1, l.AreaMM2, l.PerimeterMM
		one, err := timing.Laser(in)
		if err != nil {
			return err
		}
		e.EachLayerS = append(e.EachLayerS, one.LayerS)
	}
	return nil
}

func maskedInput(m bench.Machine, d dials, layers int64, exposureS float64) timing.MaskedInput {
	return timing.MaskedInput{
		HeightMM: float64(layers) * d.layerUM / 1000, LayerUM: d.layerUM, Bottom: timing.Bottom{Layers: d.bottomLayers, ExposureS: *d.bottomExposureS},
		TransitionLayers: &d.transitionLayers, ExposureS: exposureS, Lift: m.Lift, Retract: m.Retract, ReleaseS: m.ReleaseS,
		Wait:   &timing.Wait{BeforeExposureS: &m.WaitBeforeS, AfterExposureS: &m.WaitAfterS, AfterLiftS: &m.WaitLiftS},
		StartS: &m.StartS, EndS: &m.EndS,
	}
}

func (e *Estimate) masked(m bench.Machine, d dials) error {
	in := maskedInput(m, d, e.Layers, *d.exposureS)
	res, err := timing.Masked(in)
	if err != nil {
		return err
	}
	e.TotalS, e.LightOnS, e.LayerS, e.Model = &res.TotalS, &res.LightOnS, &res.LayerS, "timing/masked"
	e.EachLayerS, err = timing.MaskedLayers(in)
	return err
}

// learn asks the machine's own finished runs, those with sealed settings of the
// same layer height.
func (w *Tasks) learn(t *store.Tx, m bench.Machine, d dials, e *Estimate) error {
	e.Reason = fmt.Sprintf("The sealed profile %q hides its exposures; its time can be learned once a run with it has an end time.", d.sealedName)
	jobs, err := w.sealedJobs(t, m, d.layerUM)
	if err != nil || len(jobs) == 0 {
		return err
	}
	res, err := timing.Learned(timing.LearnedInput{Runs: jobs, Job: &e.Job})
	if err != nil || res.TotalS == nil {
		return err
	}
	e.TotalS, e.Interval, e.Model = res.TotalS, res.TotalPI, "learned"
	e.LayerS = quantity.Ptr(*res.TotalS / float64(e.Layers))
	e.Reason = learnedWords(res)
	for range e.Layers {
		e.EachLayerS = append(e.EachLayerS, *e.LayerS)
	}
	return nil
}

func learnedWords(res timing.LearnedResult) string {
	words := fmt.Sprintf("Learned from %d runs of this machine with sealed settings:", res.N)
	for i, term := range res.Terms {
		if i > 0 {
			words += " +"
		}
		words += fmt.Sprintf(" %.3g %s × %s", term.Value, term.Unit, term.Name)
	}
	if res.MissPct != nil {
		words += fmt.Sprintf("; each run was missed by about %.2g %% when the others foretold it", *res.MissPct)
	}
	words += "."
	for _, warning := range res.Warnings.Warnings {
		words += " " + warning.Message
	}
	return words
}

func (w *Tasks) sealedJobs(t *store.Tx, m bench.Machine, layerUM float64) (out []timing.JobTime, err error) {
	runs, err := t.RunsOfMachine(m.ID)
	if err != nil {
		return nil, err
	}
	profiles := map[string]bench.Profile{}
	for _, r := range runs {
		took := r.TookS()
		if took == nil {
			continue
		}
		p, known := profiles[r.ProfileID]
		if !known {
			if p, err = t.Profile(r.ProfileID); err != nil {
				return nil, err
			}
			profiles[r.ProfileID] = p
		}
		if p.ExposureS != nil || !quantity.Equal(p.LayerUM, layerUM) {
			continue
		}
		loads, err := w.RunLoads(t, r)
		if err != nil {
			return nil, err
		}
		layers, err := w.PlateLayers(t, loads, layerUM)
		if err != nil {
			return nil, err
		}
		out = append(out, timing.JobTime{Job: jobOf(layers), ActualS: *took})
	}
	return out, nil
}

// RunLoads is what a run printed: what its plate held, or copies of its piece.
func (w *Tasks) RunLoads(t *store.Tx, r bench.Run) ([]PlateLoad, error) {
	if r.PlateID != nil {
		placements, err := t.PlacementsOfPlate(*r.PlateID)
		if err != nil {
			return nil, err
		}
		return LoadsOf(t, placements)
	}
	piece, err := t.Piece(r.PieceID)
	return []PlateLoad{{piece, quantity.Or(r.ScalePct, 100) / 100, r.Copies}}, err
}

// LoadsOf gathers placements by piece and scale.
func LoadsOf(t *store.Tx, placements []bench.Placement) ([]PlateLoad, error) {
	type key struct {
		piece string
		scale float64
	}
	var out []PlateLoad
	place := map[key]int{}
	for _, p := range placements {
		k := key{p.PieceID, p.ScalePct}
		if _, known := place[k]; !known {
			piece, err := t.Piece(p.PieceID)
			if err != nil {
				return nil, err
			}
			place[k] = len(out)
			out = append(out, PlateLoad{Piece: piece, Scale: p.ScalePct / 100})
		}
		out[place[k]].Copies++
	}
	return out, nil
}

// EstimateRun computes our time for a piece with a profile before it is
// printed.
func (w *Tasks) EstimateRun(ctx context.Context, profileID, pieceID string, copies int64, scalePct float64) (out Estimate, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		p, err := t.Profile(profileID)
		if err != nil {
			return err
		}
		m, err := t.Machine(p.MachineID)
		if err != nil {
			return err
		}
		piece, err := t.Piece(pieceID)
		if err != nil {
			return err
		}
		out, _, err = w.Estimate(t, m, DialsOf(p), []PlateLoad{{piece, scalePct / 100, copies}})
		return err
	})
	return out, err
}
