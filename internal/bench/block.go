package bench

import (
	"database/sql/driver"
	"fmt"
	"strings"

	"ojime/internal/core/edition"
	"ojime/internal/core/quantity"
)

// Block is a part of a write-up in its place: one of the program's own by its Key, left out where Out is set, or what the
// reviewer put between, with a Title, Text and Pictures of its own.
type Block struct {
	Key      string        `json:"key" minLength:"1" maxLength:"80"`
	Out      bool          `json:"out" required:"false"`
	Title    string        `json:"title" required:"false" maxLength:"200"`
	Text     string        `json:"text" required:"false" maxLength:"20000"`
	Pictures BlockPictures `json:"pictures" required:"false"`
}

// BlockPicture is a photograph that stands in a write-up, with what is to be seen on it in the reviewer's words.
type BlockPicture struct {
	PhotographID string `json:"photograph_id"`
	Caption      string `json:"caption" maxLength:"300"`
}

// BlockPictures are those of one block, in their order.
type BlockPictures []BlockPicture

// Blocks are the parts of a write-up in the reviewer's order; those that it does not name stand where they usually do.
type Blocks []Block

// MostPictures is how many photographs one write-up takes, the reviewer's own first, so that it stays one page that opens
// everywhere; so is mostBlocks of its parts.
const (
	mostBlocks   = 200
	MostPictures = 60
)

// Own reports a block that the reviewer put between.
func (b Block) Own() bool { return edition.Own(b.Key) }

// Check says what makes no sense about the parts of a write-up.
func (l Blocks) Check() error {
	var c quantity.Checks
	if len(l) > mostBlocks {
		c.Fail("blocks", "are %d; a write-up takes %d", len(l), mostBlocks)
	}
	seen, pictures := map[string]bool{}, 0
	for i, b := range l {
		at := fmt.Sprintf("blocks[%d].", i)
		if seen[b.Key] {
			c.Fail(at+"key", "is %.40q a second time; each part stands once", b.Key)
		}
		seen[b.Key] = true
		pictures += len(b.Pictures)
		switch {
		case b.Own() && strings.TrimSpace(b.Text) == "" && len(b.Pictures) == 0:
			c.Fail(at+"text", "is missing; write what stands there, choose a picture, or take the part away")
		case !b.Own() && (b.Title != "" || b.Text != "" || len(b.Pictures) > 0):
			c.Fail(at+"text", "is given for a part that the program writes; put a part of your own beside it")
		}
	}
	if pictures > MostPictures {
		c.Fail("blocks", "show %d pictures; a page takes %d", pictures, MostPictures)
	}
	return c.Err()
}

// Value stores the list as JSON text.
func (l Blocks) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Blocks) Scan(from any) error { return scanList(from, l) }
