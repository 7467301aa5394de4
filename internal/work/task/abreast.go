package task

import (
	"runtime"

	"golang.org/x/sync/errgroup"
)

// Abreast does a step for each of n things, as many at a time as there are processors, and gives the first error. The steps ask
// the record nothing and write to places of their own.
func Abreast(n int, step func(i int) error) error {
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i := range n {
		group.Go(func() error { return step(i) })
	}
	return group.Wait()
}
