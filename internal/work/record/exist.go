package record

import (
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	rated "ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// leftOutExist holds the prints that reviews leave out against the runs there are.
func (r *Record) leftOutExist(known identities) func() error {
	return func() error {
		for i, v := range r.Reviews {
			for j, o := range v.LeftOut {
				if !known["runs"][o.RunID] {
					return quantity.Errorf(fmt.Sprintf("reviews[%d].left_out[%d].run_id", i, j), "names %.40q, which is not among the runs", o.RunID)
				}
			}
		}
		return nil
	}
}

// setUpsExist holds the set-ups that reviews name, or declared, against the settings there
// are.
func (r *Record) setUpsExist(known identities) func() error {
	return func() error {
		for i, v := range r.Reviews {
			refs := map[string]*bench.SetUpRef{}
			for j, n := range v.SetUps {
				refs[fmt.Sprintf("set_ups[%d]", j)] = &n.SetUpRef
			}
			for j, d := range v.Deciding {
				refs[fmt.Sprintf("deciding[%d].against", j)], refs[fmt.Sprintf("deciding[%d].of", j)] = d.Against, d.Of
			}
			for at, ref := range refs {
				if ref != nil && !known["profiles"][ref.ProfileID] {
					return quantity.Errorf(fmt.Sprintf("reviews[%d].%s.profile_id", i, at), "names %.40q, which is not among the settings", ref.ProfileID)
				}
			}
		}
		return nil
	}
}

// copiesRead holds the readings of references against the copies that these have.
func (r *Record) copiesRead() func() error {
	return func() error {
		copies := map[string]int64{}
		for _, ref := range r.References {
			copies[ref.ID] = ref.Copies
		}
		for i, reading := range r.ReferenceReadings {
			if reading.Copy > copies[reading.ReferenceID] {
				return quantity.Errorf(fmt.Sprintf("reference_readings[%d].copy", i), "is %d; its reference has %d", reading.Copy, copies[reading.ReferenceID])
			}
		}
		for i, p := range r.Photographs {
			if p.ReferenceID != nil && *p.Copy > copies[*p.ReferenceID] {
				return quantity.Errorf(fmt.Sprintf("photographs[%d].copy", i), "is %d; its reference has %d", *p.Copy, copies[*p.ReferenceID])
			}
		}
		for i, rating := range r.Ratings {
			if rating.ReferenceID != nil && *rating.Copy > copies[*rating.ReferenceID] {
				return quantity.Errorf(fmt.Sprintf("ratings[%d].copy", i), "is %d; its reference has %d", *rating.Copy, copies[*rating.ReferenceID])
			}
		}
		return nil
	}
}

// scalesExist holds what was rated against the scales there are, the program's and the
// record's own.
func (r *Record) scalesExist() func() error {
	return func() error {
		own, machines := map[string]bool{}, slices.Clone(rated.OfMachines)
		for _, s := range r.RatingScales {
			if s.About == bench.ScaleOfMachines {
				machines = append(machines, s.OfMachines())
			} else {
				own[s.ID] = true
			}
		}
		for i, rating := range r.MachineRatings {
			if err := rating.Check(machines); err != nil {
				return task.WithPrefix(fmt.Sprintf("machine_ratings[%d].", i), err)
			}
		}
		for i, rating := range r.Ratings {
			if !own[rating.Scale] && !slices.ContainsFunc(rated.Usual, func(s rated.Scale) bool { return s.Key == rating.Scale }) {
				return quantity.Errorf(fmt.Sprintf("ratings[%d].scale", i), "is %.40q, which is no scale of the record or of this program", rating.Scale)
			}
		}
		return nil
	}
}

// defectsShown holds photographs of a defect against the defects of their specimens.
func (r *Record) defectsShown() func() error {
	return func() error {
		of := map[string]string{}
		for _, s := range r.Specimens {
			for _, d := range s.Defects {
				of[d.ID] = s.ID
			}
		}
		for i, p := range r.Photographs {
			if p.DefectID != nil && (p.SpecimenID == nil || of[*p.DefectID] != *p.SpecimenID) {
				return quantity.Errorf(fmt.Sprintf("photographs[%d].defect_id", i), "names %.40q, which is no defect of its specimen", *p.DefectID)
			}
		}
		return nil
	}
}

// partsExist holds the parts of assemblies against the pieces there are.
func (r *Record) partsExist(known identities) func() error {
	return func() error {
		for i, a := range r.Assemblies {
			for j, p := range a.Parts {
				if !known["pieces"][p.PieceID] {
					return quantity.Errorf(fmt.Sprintf("assemblies[%d].parts[%d].piece_id", i, j), "names %.40q, which is not among the pieces", p.PieceID)
				}
			}
		}
		return nil
	}
}

// surveysFit holds the surveys of plates against their machines.
func (r *Record) surveysFit() func() error {
	return func() error {
		machines := task.ByID(r.Machines, func(m bench.Machine) string { return m.ID })
		for i, s := range r.PlateSurveys {
			if err := s.Check(machines[s.MachineID]); err != nil {
				return task.WithPrefix(fmt.Sprintf("plate_surveys[%d].", i), err)
			}
		}
		return nil
	}
}

// lightReads holds that every light grid is one.
func (r *Record) lightReads() func() error {
	return func() error {
		for i, g := range r.LightGrids {
			if _, err := g.Even(); err != nil {
				return task.WithPrefix(fmt.Sprintf("light_grids[%d].", i), err)
			}
		}
		return nil
	}
}

// slicedCheck holds that every sliced file is one.
func (r *Record) slicedCheck() func() error {
	return func() error {
		for i, f := range r.SlicedFiles {
			if err := f.Check(); err != nil {
				return task.WithPrefix(fmt.Sprintf("sliced_files[%d].", i), err)
			}
		}
		return nil
	}
}

// unitsCheck holds that every unit file makes sense, and that a machine has one at most.
func (r *Record) unitsCheck() func() error {
	return func() error {
		seen := map[string]bool{}
		for i, u := range r.UnitFiles {
			if err := u.Check(); err != nil {
				return task.WithPrefix(fmt.Sprintf("unit_files[%d].", i), err)
			}
			if seen[u.MachineID] {
				return quantity.Errorf(fmt.Sprintf("unit_files[%d].machine_id", i), "is that of a machine that has a unit file already")
			}
			seen[u.MachineID] = true
		}
		return nil
	}
}

// levelsCheck holds that every levelling makes sense.
func (r *Record) levelsCheck() func() error {
	return func() error {
		for i, l := range r.Levellings {
			if err := l.Check(); err != nil {
				return task.WithPrefix(fmt.Sprintf("levellings[%d].", i), err)
			}
		}
		return nil
	}
}

// stepsCheck holds that every step on a computer makes sense.
func (r *Record) stepsCheck() func() error {
	return func() error {
		for i, s := range r.SoftwareSteps {
			if err := s.Check(); err != nil {
				return task.WithPrefix(fmt.Sprintf("software_steps[%d].", i), err)
			}
		}
		return nil
	}
}

// namesOnce holds that no two rooms have one name, and no kind of piece two checklists.
func (r *Record) namesOnce() func() error {
	return func() error {
		seen := map[string]bool{}
		for i, room := range r.Workrooms {
			if seen[room.Name] {
				return quantity.Errorf(fmt.Sprintf("workrooms[%d].name", i), "is %.70q once more; each room has a name of its own", room.Name)
			}
			seen[room.Name] = true
		}
		seen = map[string]bool{}
		for i, l := range r.Checklists {
			if seen[l.Kind] {
				return quantity.Errorf(fmt.Sprintf("checklists[%d].kind", i), "is %.70q once more; each kind of piece has one checklist", l.Kind)
			}
			seen[l.Kind] = true
		}
		return nil
	}
}

// picturesThere holds the copies of a photograph against those that came with the record.
func (r *Record) picturesThere(came *store.Staged, at string, p bench.PictureFiles) error {
	for _, name := range []string{p.CopySHA256, p.SmallSHA256} {
		if !p.Erased && !came.Holds(name) && !slices.Contains(r.MissingPictures, name) {
			return quantity.Errorf(at+".copy_sha256", "names a picture that the file lacks; export the record again")
		}
	}
	return nil
}
