package publish

import (
	"ojime/internal/work/dataset"
)

// livingTable is what the write-up says of living with machines: a column a machine, a row
// for each scale on which any was rated; nil where none was.
type livingTable struct {
	Machines []string
	Rows     []livingRow
}

type livingRow struct {
	Scale string
	Says  []string
}

func tableOf(machines []dataset.Lived) *livingTable {
	var out livingTable
	for _, m := range machines {
		out.Machines = append(out.Machines, m.Machine)
	}
	if len(machines) == 0 {
		return nil
	}
	for i, on := range machines[0].Scales { // all machines have the same, in the same order
		row, rated := livingRow{Scale: on.Scale.Name}, false
		for _, m := range machines {
			says := "not rated"
			if l := m.Scales[i].Lived; l != nil {
				says, rated = l.Says, true
			}
			row.Says = append(row.Says, says)
		}
		if rated {
			out.Rows = append(out.Rows, row)
		}
	}
	if len(out.Rows) == 0 {
		return nil
	}
	return &out
}

// remarksOf are the machines of which something annoys or pleases.
func remarksOf(machines []dataset.Lived) (out []dataset.Lived) {
	for _, m := range machines {
		if len(m.Remarks.Says) > 0 {
			out = append(out, m)
		}
	}
	return out
}
