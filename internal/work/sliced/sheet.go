package sliced

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stack"
	"ojime/internal/core/table"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/planning"
)

// SlicedSheet is a sliced file beside what is on record of its print or settings. Solid is what
// its layers come to on the machine, nil with a Reason where the machine's pixels are not known.
type SlicedSheet struct {
	ID             string           `json:"id"`
	AtMS           int64            `json:"at_ms"`
	Name           string           `json:"name"`
	FileSHA256     string           `json:"file_sha256"`
	Bytes          int64            `json:"bytes"`
	WidthPX        int64            `json:"width_px"`
	HeightPX       int64            `json:"height_px"`
	Layers         int              `json:"layers"`
	LayerUM        float64          `json:"layer_um"`
	MissingNumbers []int            `json:"missing_numbers"`
	OtherFiles     []string         `json:"other_files"`
	Note           string           `json:"note"`
	TakenBackMS    *int64           `json:"taken_back_ms"`
	TakenBackWhy   string           `json:"taken_back_why"`
	Solid          *stack.Solid     `json:"solid"`
	Reason         string           `json:"reason"`
	MassG          *float64         `json:"mass_g"`
	TotalS         *float64         `json:"total_s"`
	Compared       []stack.Compared `json:"compared"`
	Differ         int              `json:"differ"`
	Pairs          []stack.Pair     `json:"pairs"`
	Says           string           `json:"says"`
}

// SlicedOfRun lists the sliced files of a print, the newest first.
func (w *Tasks) SlicedOfRun(ctx context.Context, runID string) (out []SlicedSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if _, err := t.Run(runID); err != nil {
			return err
		}
		out, err = ReadSlicedOfRun(t, runID)
		return err
	})
	return out, err
}

// SlicedOfProfile lists the sliced files of settings, the newest first.
func (w *Tasks) SlicedOfProfile(ctx context.Context, profileID string) (out []SlicedSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if _, err := t.Profile(profileID); err != nil {
			return err
		}
		out, err = ReadSlicedOfProfile(t, profileID)
		return err
	})
	return out, err
}

// ReadSlicedOfRun is SlicedOfRun within a transaction.
func ReadSlicedOfRun(t *store.Tx, runID string) ([]SlicedSheet, error) {
	files, err := t.SlicedFilesOfRun(runID)
	if err != nil {
		return nil, err
	}
	return slicedSheets(t, files)
}

// ReadSlicedOfProfile is SlicedOfProfile within a transaction.
func ReadSlicedOfProfile(t *store.Tx, profileID string) ([]SlicedSheet, error) {
	files, err := t.SlicedFilesOfProfile(profileID)
	if err != nil {
		return nil, err
	}
	return slicedSheets(t, files)
}

func slicedSheets(t *store.Tx, files []bench.SlicedFile) ([]SlicedSheet, error) {
	out := make([]SlicedSheet, len(files))
	for i, f := range files {
		s, err := slicedSheet(t, f)
		if err != nil {
			return nil, err
		}
		out[len(files)-1-i] = s
	}
	return out, nil
}

// slicedOn is the machine, resin and settings that a sliced file is for, and what is printed.
type slicedOn struct {
	machine bench.Machine
	resin   bench.Resin
	profile bench.Profile
	loads   []planning.PlateLoad
}

func onOf(t *store.Tx, f bench.SlicedFile) (on slicedOn, err error) {
	profileID, machineID, resinID := "", "", ""
	if f.RunID != nil {
		run, err := t.Run(*f.RunID)
		if err != nil {
			return on, err
		}
		profileID, machineID, resinID = run.ProfileID, run.MachineID, run.ResinID
		if on.loads, err = planning.RunLoads(t, run.ID); err != nil {
			return on, err
		}
	} else {
		profileID = *f.ProfileID
	}
	if on.profile, err = t.Profile(profileID); err != nil {
		return on, err
	}
	if machineID == "" {
		machineID, resinID = on.profile.MachineID, on.profile.ResinID
	}
	if on.machine, err = t.Machine(machineID); err != nil {
		return on, err
	}
	on.resin, err = t.Resin(resinID)
	return on, err
}

func slicedSheet(t *store.Tx, f bench.SlicedFile) (SlicedSheet, error) {
	on, err := onOf(t, f)
	if err != nil {
		return SlicedSheet{}, err
	}
	out := SlicedSheet{
		ID: f.ID, AtMS: f.CreatedMS, Name: f.Name, FileSHA256: f.FileSHA256, Bytes: f.Bytes, WidthPX: f.WidthPX, HeightPX: f.HeightPX,
		Layers: len(f.Layers), LayerUM: on.profile.LayerUM, MissingNumbers: f.MissingNumbers, OtherFiles: f.OtherFiles, Note: f.Note,
		TakenBackMS: f.TakenBackMS, TakenBackWhy: f.TakenBackWhy, Pairs: f.Pairs, Compared: []stack.Compared{},
	}
	found, twice := stack.Understand(f.Pairs)
	read := stack.Stack{WidthPX: int(f.WidthPX), HeightPX: int(f.HeightPX), Layers: f.Layers}
	solid, err := solidOn(read, on)
	if err != nil {
		return out, err
	}
	if solid == nil {
		out.Reason = "The pixels of " + on.machine.Name + " are not on record, so its pixels have no size here; enter them with the machine."
		solid = &stack.Solid{HeightMM: float64(len(f.Layers)) * on.profile.LayerUM / 1000}
	} else {
		out.Solid = solid
		if d := on.resin.DensityGML; d != nil {
			out.MassG = quantity.Ptr(*d * solid.VolumeML)
		}
	}
	if out.TotalS, err = timeOf(on, len(f.Layers), out.Solid); err != nil {
		return out, err
	}
	out.Compared = stack.Against(read, *solid, on.profile.LayerUM, found, twice, on.expected(out.Solid != nil))
	for _, c := range out.Compared {
		if c.Agrees != nil && !*c.Agrees {
			out.Differ++
		}
	}
	out.Says = out.words()
	return out, nil
}

// solidOn is what a stack comes to on a machine, nil where the size of its pixels is not known. A
// stack that lies turned by a quarter is turned back.
func solidOn(s stack.Stack, on slicedOn) (*stack.Solid, error) {
	m := on.machine
	if m.PxX == nil || m.PxY == nil {
		return nil, nil
	}
	x, y := 1000*m.WidthMM/float64(*m.PxX), 1000*m.DepthMM/float64(*m.PxY)
	if s.WidthPX == int(*m.PxY) && s.HeightPX == int(*m.PxX) {
		x, y = y, x
	}
	solid, err := stack.SolidOf(stack.SolidInput{Layers: s.Layers, PitchXUM: x, PitchYUM: y, LayerUM: on.profile.LayerUM})
	return &solid, err
}

// timeOf is our time for as many layers, nil where settings hide what it needs.
func timeOf(on slicedOn, layers int, solid *stack.Solid) (*float64, error) {
	m, p := on.machine, on.profile
	switch {
	case m.LightEngine == bench.Laser && solid != nil:
		in := timing.LaserInput{
			Layers: int64(layers), Copies: 1, HatchMM: *m.HatchMM, HatchMMS: *m.HatchMMS, ContourPasses: *m.ContourPasses,
			ContourMMS: *m.ContourMMS, SettleS: *m.SettleS, StartS: &m.StartS, EndS: &m.EndS,
		}
		for i := range solid.Areas {
			in.AreaMM2Total += solid.Areas[i]
			in.PerimeterMMTotal += solid.Outlines[i]
		}
		res, err := timing.Laser(in)
		return &res.TotalS, err
	case m.LightEngine != bench.Laser && p.ExposureS != nil && p.BottomExposureS != nil:
		res, err := timing.Masked(planning.MaskedInputOf(m, p, int64(layers), *p.ExposureS))
		return &res.TotalS, err
	}
	return nil, nil
}

// expected is what is on record beside a sliced file; sized says that its pixels have a size.
func (on slicedOn) expected(sized bool) stack.Expected {
	p := on.profile
	out := stack.Expected{Machine: on.machine.Name, WidthPX: on.machine.PxX, HeightPX: on.machine.PxY, LayerUM: &p.LayerUM}
	var tallest, volume float64
	for _, l := range on.loads {
		tallest = max(tallest, l.Piece.SizeZMM*l.Scale)
		volume += float64(l.Copies) * l.Scale * l.Scale * l.Scale * max(0, l.Piece.VolumeML-l.Piece.HollowML)
	}
	if len(on.loads) > 0 {
		out.HeightMM = &tallest
		if sized {
			out.VolumeML = &volume
		}
	}
	count := func(v *int64) *float64 {
		if v == nil {
			return nil
		}
		return quantity.Ptr(float64(*v))
	}
	out.Settings = []stack.Setting{
		{Field: "layer_um", Label: "layer height", Unit: " µm", Value: &p.LayerUM},
		{Field: "exposure_s", Label: "exposure", Unit: " s", Value: p.ExposureS},
		{Field: "bottom_layers", Label: "bottom layers", Value: count(p.BottomLayers)},
		{Field: "bottom_exposure_s", Label: "bottom exposure", Unit: " s", Value: p.BottomExposureS},
		{Field: "transition_layers", Label: "transition layers", Value: count(p.TransitionLayers)},
		{Field: "wait_before_s", Label: "wait before exposure", Unit: " s", Value: p.WaitBeforeS},
		{Field: "wait_after_s", Label: "wait after exposure", Unit: " s", Value: p.WaitAfterS},
		{Field: "wait_lift_s", Label: "wait after lift", Unit: " s", Value: p.WaitLiftS},
		{Field: "light_power_pct", Label: "light power", Unit: " %", Value: p.LightPowerPct},
	}
	return out
}

// words are a sliced file in a sentence or two.
func (s SlicedSheet) words() string {
	out := fmt.Sprintf("%s of %s µm", say.Counted(int64(s.Layers), "layer"), say.Figure(s.LayerUM))
	if s.Solid != nil {
		out += fmt.Sprintf(": %s mm high, %s ml; the largest area is %s mm² in layer %d", say.Figure(s.Solid.HeightMM), say.Figure(s.Solid.VolumeML), say.Figure(s.Solid.LargestMM2), s.Solid.LargestLayer)
	}
	if s.TotalS != nil {
		out += "; " + say.Duration(*s.TotalS) + " by our estimate"
	}
	out += "."
	switch s.Differ {
	case 0:
		out += " Nothing that both say differs from the record."
	case 1:
		out += " One value differs from the record."
	default:
		out += fmt.Sprintf(" %d values differ from the record.", s.Differ)
	}
	if s.Solid != nil && len(s.Solid.Islands) > 0 {
		out += fmt.Sprintf(" In %s something begins with nothing under it, first in layer %d.", say.Counted(int64(len(s.Solid.Islands)), "layer"), s.Solid.Islands[0].Layer)
	}
	if n := len(s.MissingNumbers); n > 0 {
		out += fmt.Sprintf(" %s missing between its numbers.", say.Counted(int64(n), "picture is", "pictures are"))
	}
	return out
}

// number is a number for a table, to a billionth and without groups.
func number(v float64) string { return strconv.FormatFloat(v, 'g', 9, 64) }

// SlicedLayersCSV is a sliced file layer by layer, with units in the names of its columns.
func (w *Tasks) SlicedLayersCSV(ctx context.Context, id string) (name string, data []byte, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		f, err := t.SlicedFile(id)
		if err != nil {
			return err
		}
		on, err := onOf(t, f)
		if err != nil {
			return err
		}
		solid, err := solidOn(stack.Stack{WidthPX: int(f.WidthPX), HeightPX: int(f.HeightPX), Layers: f.Layers}, on)
		if err != nil {
			return err
		}
		rows := [][]string{{"layer", "lit_px", "grey_px", "area_mm2", "outline_mm", "regions", "islands", "largest_island_px"}}
		for i, l := range f.Layers {
			area, outline := "", ""
			if solid != nil {
				area, outline = number(solid.Areas[i]), number(solid.Outlines[i])
			}
			rows = append(rows, []string{fmt.Sprint(i + 1), number(l.LitPX), fmt.Sprint(l.GreyPX), area, outline, fmt.Sprint(l.Regions), fmt.Sprint(l.Islands), fmt.Sprint(l.IslandPX)})
		}
		name = strings.TrimSuffix(f.Name, ".zip") + "-layers.csv"
		data, err = table.Write(rows)
		return err
	})
	return name, data, err
}
