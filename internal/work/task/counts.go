package task

// Flag counts a truth.
func Flag(b bool) int64 {
	if b {
		return 1
	}
	return 0
}
