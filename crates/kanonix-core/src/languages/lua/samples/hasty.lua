local a=1;local b,c=2 ,3
local function  f ( x,y,... ) if x>y then return x..y else return - -x end end
function  M.quay ( ) end
function M:mole(a)local t={1,2;3,["x y"]=4,[ [[z]] ]=5,n=6}
  return t [1] , t.n,#t,not a and t[ [[z]] ]
end
if a then b() elseif c then
d() else -- why
e()end
while a<b do a=a+1 end repeat a=a-1 until a==0
for i=1,10,2 do print(i)end
for k,v in pairs( t )do
  print(k ,v) end
print"ebb" print{1} ; (f or print)( 2 )
x=function(a,b)return a end
y = call(function ( )
      z( )
   end,1)
w = a .. b .. 1 .. c
