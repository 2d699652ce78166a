package edit

// Match is a picture that may belong to an entry of a table; File is "" when there is none.
type Match struct {
	Entry, File, How string
}

// How a picture was found for an entry.
const (
	Kept       = "as it was"
	SameName   = "same name"
	AlikeTaken = "alike, taken"
	AlikeLeft  = "alike, not taken"
)
