struct Gauge {
  int   level; /* metres */
  const char *name;   /* of the place */
};













struct Tide
{
  int a;

};
int
surge (int a)
{

  if(a) { b(); }
  else { c( 1 ); }
  if (a) {
    d ();
  } else {
    e();
  }
  x = a+b; y = a - b; int z[] = {1, 2}; int u[] = { 3 };
  t = aaaa && bbbb && cccc
    && dddd;
  s = a
    ? b
    : c;
  e = a ? b :
    c;
  if (
    a && b
  )
    c();
  switch (a)
  {
  case 1:
  {
    b();
  }
  }
  g(x,
    y);
  aaaaaaaaaaaaaaaaaaaa(bbbbbbbbbbbbbbbbbbbb, cccccccccccccccccccc, dddddddddddddddddddd, eeeeeeeeeeeeeeeeeeee, ffffffffffffffffffff);
  for (;;) {}
  return 0;
}
int tide(int a) { return a; }
void none() {}
/* low  
 * tide */
auto l = [](int x) {
  return x;
};
auto m = [](int x)
{
  return x;
};
