class Gauge extends Station {

  level() { return 1; }

}













function surge (level) {
}
function tide(level) {}
if (a) { b(); }
else { c( 1 ); }
if(a) {
  d();
} else {
  e();
}
x = [1, 2]; y = {a: 1}; z = [ 3 ]; u = { b: 2 }; a[0]; a[ 1 ]; v = !a; w = ! b; i ++; j++; h(1); h (2);
let l = function(a) { b(); }; let m = function (a) { return 1; };
let n = (a) => {
  b();
};
t = aaaa && bbbb && cccc
  && dddd;
s = a
  ? b
  : c;
e = a ? b :
  c;
q = r.a().b().c();
let aa   = 1; // metres
let bbbb = 2; // feet
let ccccc = 3;   // fathoms
/* low  
 * tide */
if (
  a && b
) c();
switch (a) {
  case 1:
  {
    b();
  }
}
aaaaaaaaaaaaaaaaaaaa(bbbbbbbbbbbbbbbbbbbb, cccccccccccccccccccc, dddddddddddddddddddd, eeeeeeeeeeeeeeeeeeee, ffffffffffffffffffff);
el = <A b={1} c={ 2 }
  d="3" />;
fl = <A b={1}
  d="3"
/>;
