package panels

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// item is a specimen or photograph of a panel with all that may tell it apart.
type item struct {
	id, code   string
	arm        int
	specimen   bench.Specimen
	photograph *bench.Photograph
	run        bench.Run
	stage      string // of its surface now
}

func (i item) toCode(p bench.Panel) ToCode {
	return ToCode{i.id, i.code, i.arm, p.Arms[i.arm].Label, p.Shows == bench.ShowsPhotographs || slices.Contains(p.Coded, i.id)}
}

// itemsOf reads what a panel shows, arm by arm.
func itemsOf(t *store.Tx, p bench.Panel) (out []item, err error) {
	for a, arm := range p.Arms {
		for _, id := range arm.ItemIDs {
			i, err := itemOf(t, p.Shows, id)
			if err != nil {
				return nil, err
			}
			i.arm = a
			out = append(out, i)
		}
	}
	return out, nil
}

func itemOf(t *store.Tx, shows, id string) (i item, err error) {
	i.id = id
	specimen := id
	if shows == bench.ShowsPhotographs {
		photograph, err := t.Photograph(id)
		if err != nil {
			return i, err
		}
		i.photograph, i.code, i.stage = &photograph, photograph.Code, photograph.Stage
		if photograph.SpecimenID == nil {
			return i, nil
		}
		specimen = *photograph.SpecimenID
	}
	if i.specimen, err = t.SpecimenByID(specimen); err != nil {
		return i, err
	}
	of, err := t.SpecimensOfRun(i.specimen.RunID) // with what is wrong with them
	if err != nil {
		return i, err
	}
	if at := slices.IndexFunc(of, func(s bench.Specimen) bool { return s.ID == specimen }); at >= 0 {
		i.specimen = of[at]
	}
	if i.run, err = t.Run(i.specimen.RunID); err != nil || i.photograph != nil {
		return i, err
	}
	i.code = i.specimen.Code
	stages, err := t.StagesOfRuns([]string{i.run.ID})
	i.stage = stageNow(i.run, stages[i.run.ID], specimen)
	return i, err
}

// lastInstant is after everything that was noted.
const lastInstant = 1 << 53
