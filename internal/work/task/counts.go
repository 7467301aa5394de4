package task

// fewTrials is below how many trials a rate is not shown without saying so.
const FewTrials = 3

// Flag counts a truth.
func Flag(b bool) int64 {
	if b {
		return 1
	}
	return 0
}
