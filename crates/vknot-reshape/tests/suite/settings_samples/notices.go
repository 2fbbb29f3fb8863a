package notices

type Gauge struct {
	Level int // metres
	Name     string // of the place
}

func surge() {

	a()













	// low
	b() // tide
	ccc()  // surge
	/* low  
	tide */
	aaaaaaaaaaaaaaaaaaaa(bbbbbbbbbbbbbbbbbbbb, cccccccccccccccccccc, dddddddddddddddddddd, eeeeeeeeeeeeeeeeeeee, ffffffffffffffffffff)

}
